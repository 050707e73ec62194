import { expectedDifference, fixed } from '@red-ember/core';
import type { StudyBody, VariantBody, VariantResponses } from '@red-ember/contract';
import { shortNames } from '@red-ember/study';
import { whatIfOf, type Asked } from './address.ts';

/** What is other than in the variant it was asked of, in a few words; empty where only air or power are, its own or beside it, which all variants share. */
export function changeWords({ fanShare, layer, cooler }: Asked): string {
  const parts = [
    fanShare === null ? '' : `fan at ${fixed(100 * fanShare, 0)} %`,
    layer ? `layer of ${layer.instead.mm} mm, ${layer.instead.conductivityWPerMK} W/(m·K)` : '',
    cooler ? `cooler of ${cooler.kPerW} K/W` : '',
  ];
  return parts.filter((part) => part !== '').join(', ');
}

const tenth = (value: number) => Math.round(10 * value) / 10;

/**
 * A what-if as a variant of the study, with what is expected of it against the reference at every spot that both were fitted at. Air and
 * powers are left as the runs had them: they are the same for all variants.
 *
 * @param fits of the variant that it was asked of, and of the reference
 */
export function withWhatIf(
  body: StudyBody,
  variant: VariantBody,
  asked: Asked,
  fits: { variant: VariantResponses; reference: VariantResponses },
): Pick<StudyBody, 'variants' | 'predictions'> {
  const id = crypto.randomUUID();
  const words = changeWords(asked);
  const made: VariantBody = {
    ...variant,
    id,
    name: shortNames()(`${variant.name}, ${words}`),
    isReference: false,
    setup: '',
    levels: [],
    notes: `A what-if of ${variant.name}: ${words}.`.slice(0, 200),
  };
  const predictions = fits.variant.spots.flatMap(({ spotId, response }): StudyBody['predictions'] => {
    const reference = fits.reference.spots.find((spot) => spot.spotId === spotId)?.response;
    if (!response || !reference) return [];
    const { byK, plusMinusK } = expectedDifference(
      reference,
      response,
      whatIfOf({ ...asked, airC: null, powerW: null, neighbourW: null }, spotId),
    );
    const text = `From ${fits.variant.runs.length === 1 ? 'a run' : 'runs'} of ${variant.name}, by what if`;
    return [{ id: crypto.randomUUID(), text, variantId: id, spotId, expectedK: tenth(byK), plusMinusK: Math.max(0.1, tenth(plusMinusK)) }];
  });
  return { variants: [...body.variants, made], predictions: [...body.predictions, ...predictions] };
}
