import type { BoardMapBody, StudyBody, SubjectBody } from '@red-ember/contract';
import { START_MAPS, startMap, startMapsOf } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { Section } from '../ui/Section.tsx';

/** What a map begins with: a usual shape of the family, or the map of another part of the study. */
export function StartShapes({
  body,
  subject,
  setMap,
}: {
  body: StudyBody;
  subject: SubjectBody;
  setMap: (map: BoardMapBody | null) => void;
}) {
  const others = body.subjects.filter((other) => other.map && other.id !== subject.id);
  return (
    <Section title="Start from a shape" hint="sizes, parts and heat shares are changed afterwards">
      <div className="flex flex-wrap gap-2">
        {startMapsOf(body.family).map((kind) => (
          <Button key={kind} onClick={() => setMap(startMap(kind))}>
            {START_MAPS[kind]}
          </Button>
        ))}
        {others.map((other) => (
          <Button key={other.id} onClick={() => setMap(other.map)}>
            As {other.name}
          </Button>
        ))}
      </div>
    </Section>
  );
}
