import { duration, recipeLengthS } from '@red-ember/core';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { PlanMargin } from './PlanMargin.tsx';
import { PlanTabs } from './PlanTabs.tsx';
import { Recipe } from './Recipe.tsx';
import { Variants } from './Variants.tsx';

export function PlanPage() {
  const study = useStudy();
  const { leastS, mostS } = recipeLengthS(study.recipe);
  return (
    <EditSheet
      study={study}
      station="Plan"
      heading="What is compared, and what does one run look like?"
      under={`One run takes ${leastS === mostS ? duration(leastS) : `${duration(leastS)} to ${duration(mostS)}`}`}
      margin={<PlanMargin study={study} />}
    >
      {(draft) => (
        <>
          <PlanTabs />
          <Variants study={study} draft={draft} />
          <Recipe {...draft} />
        </>
      )}
    </EditSheet>
  );
}
