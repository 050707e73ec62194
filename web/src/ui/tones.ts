import { callWords, type Call, type CallWords } from '@red-ember/core';
import type { StripTone } from './HeadroomStrip.tsx';

const STRIP: Record<CallWords['tone'], StripTone> = { cooler: 'quench', warmer: 'ember', plain: 'stone' };

/** The tone in which a side's strip and trace are drawn: a side's own colour only where the call names it. */
export const toneOf = (call: Call): StripTone => STRIP[callWords(call).tone];

/** The same as text. */
export const TONE_TEXT: Record<StripTone, string> = { stone: 'text-soft', ember: 'text-ember-text', quench: 'text-quench-text' };
