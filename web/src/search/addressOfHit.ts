import type { HitKind, SearchHit } from '@red-ember/contract';

export const KIND_NAMES: Record<HitKind, string> = {
  study: 'Studies',
  part: 'Parts under test',
  variant: 'Variants',
  fitted: 'Parts that are fitted',
  kept: 'Parts kept on the bench',
  spot: 'Spots and sensors',
  setting: 'What is held',
  mount: 'Mounts',
  run: 'Runs',
  note: 'Notes and events of runs',
  survey: 'Camera pictures',
  instrument: 'Instruments',
};

const STATION: Record<Exclude<HitKind, 'run' | 'note' | 'instrument' | 'kept'>, string> = {
  study: 'ask',
  part: 'ask',
  variant: 'plan',
  fitted: 'plan/parts',
  spot: 'look',
  setting: 'hold',
  mount: 'mount',
  survey: 'look/camera',
};

/** Where a thing is looked at. */
export function addressOfHit({ kind, studyId, id }: Pick<SearchHit, 'kind' | 'studyId' | 'id'>): string {
  if (kind === 'instrument') return '/instruments';
  if (kind === 'kept') return `/runs/parts?part=${id}`;
  if (kind === 'run' || kind === 'note') return `/studies/${studyId}/run/${id}`;
  return `/studies/${studyId}/${STATION[kind]}`;
}
