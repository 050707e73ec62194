import { useMemo } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { useSearchParams } from 'react-router';
import { AS_IT_RAN, foretell, type Foretold, type SpotResponse, type WhatIf } from '@red-ember/core';
import { STANDS_ON, type Study, type VariantResponses } from '@red-ember/contract';
import { useResponsesQuery } from '../../data/api.ts';
import { printAsked, readAsked, whatIfOf, type Asked } from './address.ts';

/** A spot as its runs left it, and as it would be. */
export interface SpotWhatIf {
  id: string;
  name: string;
  limitC: number;
  limitSource: string;
  response: SpotResponse;
  whatIf: WhatIf;
  ran: Foretold;
  would: Foretold;
}

/** Variants of which something was measured, the one that is looked at, and what is asked of it. */
export function useWhatIf(study: Study) {
  const [search, setSearch] = useSearchParams();
  const variants = study.variants.filter(({ id }) => study.variantsWithRuns.includes(id));
  const variant = variants.find(({ id }) => id === search.get('variant')) ?? variants.find(({ isReference }) => isReference) ?? variants[0];
  // Another name than that of how warm it is.
  const standsOn = STANDS_ON.find((known) => known === search.get('over'));
  const of = (variantId: string) => ({ studyId: study.id, variantId, ...(standsOn ? { air: standsOn } : {}) });
  const { currentData: data, error, isFetching } = useResponsesQuery(variant ? of(variant.id) : skipToken);
  const reference = variants.find(({ isReference }) => isReference);
  const { currentData: ofReference } = useResponsesQuery(reference ? of(reference.id) : skipToken);
  const asked = readAsked(search);
  const put = (entries: Record<string, string>) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(entries)) if (value === '') next.delete(name);
          else next.set(name, value); // prettier-ignore
        return next;
      },
      { replace: true },
    );
  const key = JSON.stringify(printAsked(asked));
  const spots = useMemo(
    () => (data ? spotsOf(study, data, readAsked(new URLSearchParams(JSON.parse(key) as Record<string, string>))) : []),
    [study, data, key],
  );
  return {
    variants,
    variant,
    data,
    error,
    isFetching,
    asked,
    spots,
    /** Of the same air; undefined where nothing was measured of the reference. */
    ofReference,
    choose: (id: string) => put({ variant: id }),
    /** What air was asked for is of another air now. */
    standOn: (air: string) => put({ over: air, air: '' }),
    ask: (part: Partial<Asked>) => put(printAsked({ ...asked, ...part })),
  };
}

/** Spots of which a fit is there, the one with the least room first. */
function spotsOf(study: Study, { spots }: VariantResponses, asked: Asked): SpotWhatIf[] {
  return spots
    .flatMap(({ spotId, response }): SpotWhatIf[] => {
      const spot = study.spots.find(({ id }) => id === spotId);
      if (!response || !spot) return [];
      const { id, name, limitC, limitSource } = spot;
      const whatIf = whatIfOf(asked, id);
      const [ran, would] = [foretell(response, AS_IT_RAN), foretell(response, whatIf)];
      return [{ id, name, limitC, limitSource, response, whatIf, ran, would }];
    })
    .sort((p, q) => p.limitC - p.would.settledC.value - (q.limitC - q.would.settledC.value));
}
