import { layerChange, type Layer, type WhatIf } from '@red-ember/core';

/** A pad or a film of paste in the place of another, as it is typed. */
export interface LayerAsked {
  areaMm2: number;
  /** Of the power that goes through it, 0..1. */
  share: number;
  now: Layer;
  instead: Layer;
}

/** What is asked, as the address holds it; null where it is left as the runs had it. */
export interface Asked {
  airC: number | null;
  powerW: number | null;
  /** What the part beside it takes, W. */
  neighbourW: number | null;
  fanShare: number | null;
  /** Layer and cooler are on the way of this spot and of no other. */
  at: string;
  layer: LayerAsked | null;
  cooler: { kPerW: number; plusMinus: number } | null;
}

export const NOTHING_ASKED: Asked = { airC: null, powerW: null, neighbourW: null, fanShare: null, at: '', layer: null, cooler: null };

/** What a layer starts from when it is asked for: a film of paste that all the heat goes through, and one that conducts better. */
export const USUAL_LAYER: LayerAsked = {
  areaMm2: 400,
  share: 1,
  now: { mm: 0.05, conductivityWPerMK: 4 },
  instead: { mm: 0.05, conductivityWPerMK: 8 },
};

const numbers = (text: string | null, count: number, allowed: (value: number) => boolean): number[] | null => {
  const values = (text ?? '').split(',').map(Number);
  return text !== null && text !== '' && values.length === count && values.every((value) => Number.isFinite(value) && allowed(value))
    ? values
    : null;
};
const one = (text: string | null, allowed: (value: number) => boolean) => numbers(text, 1, allowed)?.[0] ?? null;
const above = (value: number) => value > 0;

/** What an address asks; whatever it holds that cannot be asked is left out. */
export function readAsked(search: URLSearchParams): Asked {
  const layer = numbers(search.get('layer'), 6, above);
  const cooler = numbers(search.get('cooler'), 2, (value) => value >= 0);
  return {
    airC: one(search.get('air'), (value) => value > -60 && value < 150),
    powerW: one(search.get('power'), (value) => value >= 0 && value < 1e5),
    neighbourW: one(search.get('beside'), (value) => value >= 0 && value < 1e5),
    fanShare: one(search.get('fan'), (value) => value > 0 && value <= 4),
    at: search.get('at') ?? '',
    layer:
      layer && layer[1]! <= 1
        ? {
            areaMm2: layer[0]!,
            share: layer[1]!,
            now: { mm: layer[2]!, conductivityWPerMK: layer[3]! },
            instead: { mm: layer[4]!, conductivityWPerMK: layer[5]! },
          }
        : null,
    cooler: cooler && cooler[0]! > 0 ? { kPerW: cooler[0]!, plusMinus: cooler[1]! } : null,
  };
}

/** The entries of an address; empty where nothing is asked. */
export function printAsked({
  airC,
  powerW,
  neighbourW,
  fanShare,
  at,
  layer,
  cooler,
}: Asked): Record<'air' | 'power' | 'beside' | 'fan' | 'at' | 'layer' | 'cooler', string> {
  const text = (value: number | null) => (value === null ? '' : String(value));
  return {
    air: text(airC),
    power: text(powerW),
    beside: text(neighbourW),
    fan: text(fanShare),
    at: layer || cooler ? at : '',
    layer: layer
      ? [layer.areaMm2, layer.share, layer.now.mm, layer.now.conductivityWPerMK, layer.instead.mm, layer.instead.conductivityWPerMK].join(
          ',',
        )
      : '',
    cooler: cooler ? [cooler.kPerW, cooler.plusMinus].join(',') : '',
  };
}

/** What is asked of one spot as the core takes it. What is typed as ± is taken for the half of a 95 % interval. */
export function whatIfOf({ airC, powerW, neighbourW, fanShare, at, layer, cooler }: Asked, spotId: string): WhatIf {
  const here = at === spotId;
  return {
    airC,
    powerW,
    neighbourW,
    fanShare,
    layer: here && layer ? { ...layerChange(layer.areaMm2, layer.now, layer.instead), share: layer.share } : null,
    cooler: here && cooler ? { kPerW: cooler.kPerW, u: cooler.plusMinus / 2 } : null,
  };
}
