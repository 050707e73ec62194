import type { TrapKey } from '@red-ember/contract';
import type { FaultKey } from '@red-ember/rig';

export interface Trap {
  /** As a learner would say it. */
  label: string;
  /** What does it on the simulated bench; none where the study itself is the trap. */
  faults: readonly FaultKey[];
  /** Where it could have been seen. */
  seen: string;
}

export const TRAP_WORDS: Record<TrapKey, Trap> = {
  'fans-free': {
    label: 'The fans were free and took part of the change',
    faults: [],
    seen: 'Read shows the fan’s speed and duty: they differ between the sides and rise during the load. Hold has no lock on a fan.',
  },
  'film-left': {
    label: 'A film was left on a pad',
    faults: ['film-left-on'],
    seen: 'The seat check after mounting: a spot climbs far above what the mount before showed after three minutes. And the two mounts of one variant disagree by kelvins.',
  },
  'wrong-plug': {
    label: 'A fan hung on the wrong plug and did not obey',
    faults: ['fan-wrong-header'],
    seen: 'Read and the live page show the fan’s speed: far lower than the duty says, and far lower than on the other mount.',
  },
  'short-load': {
    label: 'The loads ended before the parts had settled',
    faults: [],
    seen: 'The live page and Read say how much is still to come; each reading carries it as a bound. Plan shows that the load has a fixed length.',
  },
  falling: {
    label: 'The part was still falling from a hotter load',
    faults: [],
    seen: 'The trace at Read falls all through the window of the last load, and the reading says how much it may still fall. Plan shows that this load has a fixed length.',
  },
  starved: {
    label: 'One machine fed the card less work',
    faults: [],
    seen: 'Read shows power, throughput and time busy: one side does less. Judge restates it to equal power, or will not call it.',
  },
  'one-fan-free': {
    label: 'One of two locked fans followed the temperature',
    faults: ['fan-free'],
    seen: 'The second fan’s trace at Read: it moves while the first stands still.',
  },
  'room-warmed': {
    label: 'The room warmed during some runs',
    faults: ['room-drift'],
    seen: 'The room’s trace at Read climbs by kelvins during the load; the mounts of one variant disagree.',
  },
  'probe-moved': {
    label: 'A probe sat in the wrong place',
    faults: ['wrong-place'],
    seen: 'One spot differs between the mounts of one variant while its neighbours agree; in the first minutes it follows its neighbour.',
  },
  'pad-off': {
    label: 'A pad did not touch on one mount',
    faults: ['pad-off'],
    seen: 'The seat check, and Read: memory and power stages differ between mounts of one variant by far more than the chip does.',
  },
  'wires-swapped': {
    label: 'The wires of a fan were swapped: it turned fully and showed no speed',
    faults: ['fan-wires-swapped'],
    seen: 'The fan’s speed reads 0 while its duty does not, and the sound level is that of a fan at full speed.',
  },
  'slow-probe': {
    label: 'A probe answered slowly',
    faults: ['lagging-sensor'],
    seen: 'Read: one spot starts to climb a minute after the load began, when its neighbours are half way.',
  },
  'dirty-samples': {
    label: 'Background work and drop-outs spoilt samples',
    faults: ['spikes', 'drop-outs'],
    seen: 'Spikes and holes in the traces at Read, which says how many samples it left out.',
  },
};
