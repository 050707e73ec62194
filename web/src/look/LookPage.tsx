import { Link } from 'react-router';
import { counted } from '@red-ember/core';
import { useLimitsQuery } from '../data/api.ts';
import { useBenches } from '../data/benches.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { LookTabs } from './LookTabs.tsx';
import { SpotTable } from './SpotTable.tsx';

export function LookPage() {
  const study = useStudy();
  const { data: library } = useLimitsQuery();
  const { channels } = useBenches(study.family);
  const offered = channels.filter(({ unit, key }) => unit === '°C' && key !== 'room').map(({ key }) => key);
  return (
    <EditSheet
      study={study}
      station="Look"
      heading="Where does it run hot, and how hot may it get?"
      under={`${study.subjects.map((subject) => subject.name).join(', ')} · ${counted(study.spots.length, 'spot')}`}
      margin={
        <>
          <MarginGroup title="Placing spots">
            <Note>Look at the bare part first. Place spots on both faces: a cover may cool one and heat the other.</Note>
            <Note>The part’s own sensor sits somewhere unknown. Keep a thermocouple beside it.</Note>
            <Note tone="caution" lead="Infrared on shiny metal lies.">
              Put matt tape on it first.
            </Note>
          </MarginGroup>
          <MarginGroup title="Limits">
            <Note>
              Start figures come from the <Link to="/limits">limits library</Link>. They are general engineering knowledge until you replace
              them from the part’s data sheet.
            </Note>
            <Note tone="heat" lead="Cut-out.">
              The server and the rig both remove the load when it is exceeded for its hold time.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <LookTabs />
          <SpotTable body={body} change={change} library={library} offered={offered} />
        </>
      )}
    </EditSheet>
  );
}
