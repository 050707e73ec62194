import { ListPlus, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { counted } from '@red-ember/core';
import type { Limit, SpotBody, StudyBody } from '@red-ember/contract';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { OpenerCell } from '../ui/OpenerCell.tsx';
import { Section } from '../ui/Section.tsx';
import { AddSeveral } from './AddSeveral.tsx';
import { SpotEditor } from './SpotEditor.tsx';
import { freeChannels, newSpot } from './spots.ts';

const METHODS: Record<SpotBody['method'], string> = { attached: '', own: 'own', infrared: 'infrared' };

/** Removes a spot and everything in the study that names it. */
export function withoutSpot(body: StudyBody, id: string): Partial<StudyBody> {
  return {
    spots: body.spots.filter((spot) => spot.id !== id).map((spot) => (spot.twinOf === id ? { ...spot, twinOf: null } : spot)),
    claims: body.claims.map((claim) => (claim.spotId === id ? { ...claim, spotId: null } : claim)),
    predictions: body.predictions.filter((prediction) => prediction.spotId !== id),
    subjects: body.subjects.map((subject) => ({
      ...subject,
      map: subject.map && { ...subject.map, placements: subject.map.placements.filter((placement) => placement.spotId !== id) },
    })),
  };
}

/** One spot with its limits, opened to be changed. */
function SpotTableRow({
  body,
  spot,
  index,
  limits,
  open,
  onToggle,
  onChange,
  onRemove,
}: {
  body: StudyBody;
  spot: SpotBody;
  index: number;
  limits: Limit[];
  open: boolean;
  onToggle: () => void;
  onChange: (part: Partial<SpotBody>) => void;
  onRemove: () => void;
}) {
  const c = (value: number | null) => (value === null || Number.isNaN(value) ? '' : `${value} °C`);
  return (
    <>
      <tr>
        <OpenerCell name={spot.name} pointer={`/spots/${index}`} open={open} onToggle={onToggle} />
        <td>{spot.componentClass}</td>
        <td className="num text-soft">{c(spot.advisoryC)}</td>
        <td className="num text-soft">{c(spot.throttleC)}</td>
        <td className="num font-semibold">{c(spot.limitC)}</td>
        <td className="num text-soft">{c(spot.cutOutC)}</td>
        <td>
          {spot.sensor}
          <span className="text-soft">
            {METHODS[spot.method] ? `, ${METHODS[spot.method]}` : ''}
            {spot.byHand ? ', by hand' : ''}
          </span>
        </td>
        <td className="num !pr-0">
          <button type="button" className="p-1 text-soft hover:text-ink" aria-label={`Remove ${spot.name}`} onClick={onRemove}>
            <Trash2 size={15} aria-hidden />
          </button>
        </td>
      </tr>
      {open ? (
        <tr>
          <td colSpan={8} className="!p-0">
            <SpotEditor spot={spot} index={index} limits={limits} family={body.family} drive={body.subjects[0]!.drive} change={onChange} />
          </td>
        </tr>
      ) : null}
    </>
  );
}

/** @param library the limits library; undefined until it has come: a spot that is added before would get limits that nobody stated */
export function SpotTable({
  body,
  change,
  library,
  offered,
}: Pick<StudyDraft, 'body' | 'change'> & { library: Limit[] | undefined; offered: string[] }) {
  const limits = library ?? [];
  const [open, setOpen] = useState<string | null>(null);
  const [several, setSeveral] = useState(false);
  const set = (index: number, part: Partial<SpotBody>) =>
    change({ spots: body.spots.map((spot, i) => (i === index ? { ...spot, ...part } : spot)) });
  const add = () => {
    const spot = newSpot(body.spots, limits, `Spot ${body.spots.length + 1}`, offered);
    change({ spots: [...body.spots, spot] });
    setOpen(spot.id);
  };
  return (
    <Section
      title={body.spots.length === 0 ? 'Spots' : counted(body.spots.length, 'spot')}
      action={
        <span className="flex gap-2">
          {library ? null : <span className="self-center text-[0.93rem] text-soft">The limits library is being opened…</span>}
          <Button look="quiet" disabled={!library} onClick={() => setSeveral(true)}>
            <ListPlus size={16} aria-hidden /> Add several
          </Button>
          <Button disabled={!library} onClick={add}>
            <Plus size={16} aria-hidden /> Add a spot
          </Button>
        </span>
      }
    >
      {body.spots.length === 0 ? (
        <Notice tone="hint">
          A spot is one place whose temperature is read, with the limit it must stay under. Survey the bare part first; then place spots
          where it runs hot, on both faces.
        </Notice>
      ) : (
        <table className="plain-table">
          <thead>
            <tr>
              <th>Spot</th>
              <th>Component</th>
              <th className="num">Advisory</th>
              <th className="num">Throttles</th>
              <th className="num">Limit</th>
              <th className="num">Cut-out</th>
              <th>Read by</th>
              <th aria-label="Remove" />
            </tr>
          </thead>
          <tbody>
            {body.spots.map((spot, index) => (
              <SpotTableRow
                key={spot.id}
                body={body}
                spot={spot}
                index={index}
                limits={limits}
                open={open === spot.id}
                onToggle={() => setOpen(open === spot.id ? null : spot.id)}
                onChange={(part) => set(index, part)}
                onRemove={() => change(withoutSpot(body, spot.id))}
              />
            ))}
          </tbody>
        </table>
      )}
      <AddSeveral
        open={several}
        free={offered.length > 0 ? freeChannels(body.spots, offered).length : null}
        onClose={() => setSeveral(false)}
        onAdd={(names, method) =>
          change({
            spots: names.reduce(
              (spots, name) => [...spots, newSpot(spots, limits, name, offered, method, body.subjects[0]!.drive, body.family)],
              body.spots,
            ),
          })
        }
      />
    </Section>
  );
}
