import type { LiveSpot } from '@red-ember/core';
import { clock, duration, fixed, LIMITER_WORDS, READ_WITHIN_K } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';

export interface Binding {
  spot: LiveSpot;
  name: string;
  limitC: number;
  cutOutC: number;
  cutOutHoldS: number;
  /** Typed by somebody; `readAt` says when. */
  byHand: boolean;
  readAt: string;
}

/** The spot with the least headroom; null before there are readings. */
export function bindingSpot(study: Study, snapshot: LiveSnapshot | null): Binding | null {
  const readable = (snapshot?.spots ?? []).filter((spot) => spot.headroomK !== null);
  const spot = readable.sort((a, b) => a.headroomK! - b.headroomK!)[0];
  const definition = study.spots.find((candidate) => candidate.id === spot?.spotId);
  return spot && definition
    ? {
        spot,
        name: definition.name,
        limitC: definition.limitC,
        cutOutC: definition.cutOutC,
        cutOutHoldS: definition.cutOutHoldS,
        byHand: definition.byHand,
        readAt: clock(spot.readAtS ?? 0),
      }
    : null;
}

/** When this phase ends, in words that do not promise more than is known. */
export function forecastWords(run: Run, snapshot: LiveSnapshot): string {
  const phase = run.phases.at(-1);
  if (!phase) return '';
  if (phase.kind === 'pause') return 'the load is off until you go on';
  if (run.recipe[run.phases.length - 1]?.mode === 'until-read')
    return snapshot.knownWithinK === null
      ? `too early to say where it settles; at most ${duration(snapshot.phaseMostLeftS)}`
      : `where it settles is known to ± ${fixed(snapshot.knownWithinK, 1)} K; it ends at ± ${fixed(READ_WITHIN_K, 1)} K, or in ${duration(snapshot.phaseMostLeftS)}`;
  const waits = snapshot.settledInS !== null;
  const doubt = Math.max(0, ...snapshot.spots.map((spot) => spot.etaDoubtS ?? 0));
  if (waits && snapshot.settledInS === 0) return 'steady; the window confirms it';
  if (waits) {
    // A doubt larger than the forecast would reach back before now.
    const give = doubt <= 45 ? '' : doubt < snapshot.settledInS! ? ` ± ${duration(doubt)}` : ', or much later';
    return `settles in about ${duration(snapshot.settledInS!)}${give}, then up to 5 min to confirm`;
  }
  const fixedLength = run.recipe[run.phases.length - 1]?.mode !== 'until-settled' || phase.kind !== 'load';
  return fixedLength
    ? `at most ${duration(snapshot.phaseMostLeftS)} left in this phase`
    : `too early to say when it settles; at most ${duration(snapshot.phaseMostLeftS)}`;
}

/** What the tester should know or do next. */
export function nextThing(run: Run, snapshot: LiveSnapshot): string {
  if (snapshot.runsAway) return 'The rig reports a load that nobody asks for. Switch the machine off by hand.';
  if (snapshot.rigLost) return 'The rig is silent. Look at its power and cable.';
  const phase = run.phases.at(-1);
  if (phase?.kind === 'pause') return 'The load is off. Go on with N.';
  if (snapshot.vanished) return 'The part is gone; it may come back when it has cooled.';
  if (snapshot.limiter && snapshot.throttling)
    return `The part is throttling, held back by ${LIMITER_WORDS[snapshot.limiter]}: its temperature is no longer free.`;
  if (snapshot.limiter) return `The part is held back by ${LIMITER_WORDS[snapshot.limiter]}.`;
  if (snapshot.capTooSoonS) return `The cap will come before it is settled: press E for more time.`;
  if (snapshot.nextMark && snapshot.nextMark.inS < 60) return `Read by hand in ${Math.round(snapshot.nextMark.inS)} s.`;
  if (phase?.kind === 'cool-down') return 'Let it cool; metal above 60 °C burns.';
  if (phase?.kind === 'idle-soak') return 'Keep hands off until the load starts.';
  return 'Nothing to do. Mark what you touch.';
}

export function phaseWords(run: Run, snapshot: LiveSnapshot): string {
  const phase = run.phases.at(-1);
  return phase ? `${phase.name}, ${clock(snapshot.phaseElapsedS)}` : 'waiting for the rig';
}

export function roomWords(snapshot: LiveSnapshot): string {
  if (snapshot.roomC === null) return 'no room probe';
  return `${fixed(snapshot.roomC, 1)} °C, so far ${fixed(snapshot.roomMinC ?? snapshot.roomC, 1)} to ${fixed(snapshot.roomMaxC ?? snapshot.roomC, 1)} °C`;
}
