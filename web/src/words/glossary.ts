/** What words of the trade and of statistics mean on these pages, each in a sentence or two that needs no other. */
export const GLOSSARY = {
  'analysis of variance':
    'Splits how far results lie apart into what each factor brings, what factors bring together, and what repeats scatter by.',
  'as found': 'Temperatures are compared as they were read, with whatever room there was; nothing is taken off.',
  blocked: 'A comparison that is not made, because the two sides differ in something that decides the result, such as fans or work.',
  bound: 'How far a reading may still go. A load that ended before it had settled gives a lower bound: the part gets at least so hot.',
  calibration:
    'A sensor held against something that is known, such as ice or boiling water; its error is taken off every reading afterwards.',
  coverage: 'In how many of a hundred such comparisons the interval holds the truth: 95 % unless the study says otherwise.',
  'cut-out': 'The temperature at which the bench takes the load off by itself, held for some seconds so that a spike does not do it.',
  'degrees of freedom': 'How many independent repeats stand behind a scatter. Few of them make intervals wide.',
  equivalent: 'Shown to be alike: the whole interval lies within the difference that matters. Not the same as “no call”.',
  'equal noise': 'Coolers compared at fan speeds at which they are equally loud, since any cooler gets better when it may be louder.',
  factor: 'Something that is varied on purpose, such as the pad or the fan; each of its settings is a level.',
  'half-normal':
    'Where nothing was repeated: how large an effect is against what the smallest ones scatter by. Large values stand out from chance, small ones do not.',
  headroom: 'What is left to a limit, in kelvin.',
  Holm: 'A correction for looking at several places at once: the more are looked at, the more likely one stands out by luck.',
  interaction: 'What one factor does depends on the level of another: a lid that helps with the fan and hurts without it.',
  kelvin:
    'A difference of one kelvin is a difference of one degree Celsius. Rises and differences are given in K, temperatures in °C or °F.',
  'K/W': 'Thermal resistance: by how many kelvin a place warms for each watt.',
  limiter: 'What holds a part back: heat, its power cap, its voltage or clock ceiling, or the host that feeds it.',
  likely: 'How probable it is, by the same figures as the interval, that one side is cooler by more than what matters.',
  load: 'The work a part is given, and the phase of a run during which it works.',
  lock: 'Something that is held the same in every run, watched by a channel or by the tester’s word.',
  mount:
    'One fitting of a cooler, pad or paste. Two runs on one mount say nothing of how the next fitting comes out, so mounts are counted and not runs.',
  'no call': 'The runs cannot tell the two apart, nor show that they are alike. More mounts could.',
  placement: 'What a probe that sits a millimetre elsewhere would read otherwise; part of the doubt of every attached sensor.',
  reference: 'The variant that the others are compared with, such as the part as it was delivered.',
  restated: 'Calculated for another power, room or noise than was measured, and labelled so.',
  rise: 'Temperature over the air in the room: what the part does, without what the day did.',
  'scatter between mounts':
    'How far fittings that were meant to be equal come out apart. Where a study has too few, the bench’s other studies lend theirs.',
  'seat check': 'Two and a half minutes of load after mounting, which show a film that was left on or a pad that does not touch.',
  'sensor of record': 'The sensor that a study goes by: one that was attached, the part’s own, or the camera. The others stand beside it.',
  settled: 'What still remains of the rise, at its 95 % bound, is within the tolerance. The page says how much that is.',
  'settled value': 'What the trace tends to, by its fit, where the load ended a little early; with the doubt of the fit.',
  spike: 'A reading that jumps and comes back at once. It is left out of means, and said to be.',
  throttling: 'A part does less because it is too hot. Less for any other reason is called held back.',
  window: 'The stretch of a phase over which a mean is taken; usually its last five minutes.',
  withheld:
    'A difference was read, and is not called, because something stands against it. The page says what would earn the call, and in how many minutes.',
} as const;

export type Word = keyof typeof GLOSSARY;
/** In the order of a dictionary. */
export const WORDS = (Object.keys(GLOSSARY) as Word[]).sort((p, q) => p.localeCompare(q));
