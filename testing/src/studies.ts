import type { Mount, SpotBody, Study, StudyBody, StudySummary } from '@red-ember/contract';
import { blankSpot, blankStudy } from '@red-ember/study';

export function spot(id: string, change: Partial<SpotBody> = {}): SpotBody {
  return {
    ...blankSpot(id, `Spot ${id}`, id),
    componentClass: 'flash',
    limitC: 85,
    limitSource: 'data sheet',
    cutOutC: 90,
    sensor: `TC ${id}`,
    ...change,
  };
}

/** A study as the server tells it: a drive, bare and with a lid. */
export function study(change: Partial<Study> = {}): Study {
  return {
    ...blankStudy('Lid on the drive'),
    id: 's1',
    version: 4,
    createdAt: '2026-03-01T10:00:00Z',
    updatedAt: '2026-03-01T10:00:00Z',
    predictionLockedAt: null,
    predictionStamps: { p1: '2026-03-01T10:00:00Z' },
    variantsWithRuns: [],
    question: 'Does it help?',
    claims: [{ id: 'c1', text: 'It cools', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 1 }],
    predictions: [{ id: 'p1', text: '', spotId: 'under', expectedK: 0, plusMinusK: 1 }],
    enclosure: { name: 'gallery', airC: 31.5, powerTempCo: 0 },
    subjects: [{ id: 'part-1', name: 'Thistle 4T', details: '', drive: null, map: null }],
    spots: [spot('top', { name: 'Flash, top face' }), spot('under', { name: 'Flash, underside' })],
    variants: [
      { id: 'bare', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' },
      { id: 'lid', name: 'slot lid', subjectId: 'part-1', isReference: false, setup: 'slot-lid', notes: '' },
    ],
    locks: [{ name: 'Case', value: 'open bench', unit: '', tolerance: null, channel: '', overrides: [] }],
    ...change,
  };
}

/** Two set-ups of a drive and a short recipe, as one sends them. */
export function studyBody(change: Partial<StudyBody> = {}): StudyBody {
  return {
    ...blankStudy('Test study'),
    spots: [spot('tc1'), spot('tc2')],
    variants: [
      { id: 'v-bare', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' },
      { id: 'v-lid', name: 'lid', subjectId: 'part-1', isReference: false, setup: 'slot-lid', notes: '' },
    ],
    recipe: [
      { kind: 'idle-soak', name: 'Idle', mode: 'fixed', durationS: 60, capS: 60, loadPercent: 0 },
      { kind: 'load', name: 'Load', mode: 'fixed', durationS: 120, capS: 120, loadPercent: 100 },
    ],
    ...change,
  };
}

export function summary(change: Partial<StudySummary> = {}): StudySummary {
  return {
    id: 's1',
    title: 'Lid on the drive',
    family: 'drive',
    subject: 'Thistle 4T',
    question: 'Does it help?',
    updatedAt: '2026-03-01T10:00:00Z',
    runs: 0,
    live: false,
    deletedAt: null,
    ...change,
  };
}

export function mount(id: string, variantId: string, number = 1): Mount {
  return {
    id,
    studyId: 's1',
    variantId,
    number,
    madeAt: '2026-03-02T09:00:00Z',
    confirmed: [],
    note: '',
    fromVariantId: null,
    handsMin: null,
    skipped: [],
    serial: '',
    by: '',
    photos: [],
  };
}
