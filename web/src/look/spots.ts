import { type DriveTemperaturesBody, type Limit, type SpotBody } from '@red-ember/contract';
import { blankSpot, classByName, type ComponentClass, type Family, GENERAL_FIGURE } from '@red-ember/study';

/** A cut-out that nobody set follows its limit so far above, K. */
export const CUT_OUT_ABOVE_K = 3;
/** Where a limit comes from that somebody typed over a general figure. */
const TYPED_LIMIT = 'typed by the tester';

/** Whether the cut-out goes with the limit: it lies as far above as usual, or both are to be typed yet. */
export const cutOutFollows = ({ limitC, cutOutC }: Pick<SpotBody, 'limitC' | 'cutOutC'>): boolean =>
  (Number.isNaN(limitC) && Number.isNaN(cutOutC)) || Math.abs(cutOutC - limitC - CUT_OUT_ABOVE_K) < 1e-9;

/** A spot with another limit: a cut-out that nobody set goes along, and a general figure is none any more. */
export function limited(spot: SpotBody, limitC: number, limits: readonly Limit[]): Partial<SpotBody> {
  return {
    limitC,
    ...(cutOutFollows(spot) ? { cutOutC: limitC + CUT_OUT_ABOVE_K } : {}),
    ...(standsAsGiven(spot, limits) ? { limitSource: TYPED_LIMIT } : {}),
  };
}

/** A spot's limits as the library states them for a class; the cut-out follows a little above. */
export function fromLibrary(
  limits: readonly Limit[],
  componentClass: ComponentClass,
  drive: DriveTemperaturesBody | null = null,
): Partial<SpotBody> {
  if (componentClass === 'drive sensor' && drive) return published(drive);
  const limit = limits.find((entry) => entry.componentClass === componentClass);
  if (!limit) return { componentClass };
  return {
    componentClass,
    advisoryC: limit.advisoryC,
    advisorySource: limit.advisorySource,
    throttleC: limit.throttleC,
    throttleSource: limit.throttleSource,
    limitC: limit.neverExceedC,
    limitSource: limit.neverExceedSource,
    cutOutC: limit.neverExceedC + CUT_OUT_ABOVE_K,
  };
}

/** What a drive publishes about itself goes before any general figure. */
function published(drive: DriveTemperaturesBody): Partial<SpotBody> {
  const { warningC, criticalC, managed1C } = drive;
  const throttleC = managed1C !== null && managed1C <= warningC ? managed1C : null;
  return {
    componentClass: 'drive sensor',
    advisoryC: null,
    advisorySource: '',
    throttleC,
    throttleSource: throttleC === null ? '' : 'first managed temperature, published by the drive',
    limitC: warningC,
    limitSource: 'warning temperature, published by the drive',
    cutOutC: criticalC,
  };
}

/** Whether the limits still stand as the library gave them, so that another class may replace them. */
export function standsAsGiven(spot: SpotBody, limits: readonly Limit[]): boolean {
  if (spot.limitSource.startsWith(GENERAL_FIGURE)) return true;
  const given = fromLibrary(limits, spot.componentClass);
  return given.limitC === spot.limitC && given.limitSource === spot.limitSource;
}

/** The class where a name gives none away. */
const UNNAMED: ComponentClass = 'board';

/** A spot under another name: its class goes with the name until somebody chose another, and the limits with the class where they stand as given. */
export function renamed(
  spot: SpotBody,
  name: string,
  limits: readonly Limit[],
  family: Family,
  drive: DriveTemperaturesBody | null = null,
): Partial<SpotBody> {
  const [was, now] = [spot.name, name].map((called) => classByName(called, family) ?? UNNAMED);
  if (spot.componentClass !== was || now === was) return { name };
  return { name, ...(standsAsGiven(spot, limits) ? fromLibrary(limits, now!, drive) : { componentClass: now! }) };
}

/** Of the channels on offer those that no spot uses yet. */
export function freeChannels(spots: readonly SpotBody[], offered: readonly string[]): string[] {
  const taken = new Set(spots.map((spot) => spot.channel));
  return offered.filter((key) => !taken.has(key));
}

/**
 * A channel that no spot uses yet: the next of those on offer, else one that is plainly still to be chosen where a bench is there, which
 * has no more, else the next number.
 */
function freeChannel(spots: readonly SpotBody[], offered: readonly string[], own: boolean): string {
  const taken = new Set(spots.map((spot) => spot.channel));
  const [free] = freeChannels(spots, offered);
  if (free) return free;
  const stem = offered.length > 0 ? 'to choose ' : own ? 's' : 'tc';
  for (let n = 1; ; n++) if (!taken.has(`${stem}${n}`)) return `${stem}${n}`;
}

/** A new spot with the limits of its class, on a channel of its own. */
export function newSpot(
  spots: readonly SpotBody[],
  limits: readonly Limit[],
  name: string,
  offered: readonly string[] = [],
  method: SpotBody['method'] = 'attached',
  drive: DriveTemperaturesBody | null = null,
  family: Family | null = null,
): SpotBody {
  const channel = freeChannel(spots, method === 'attached' ? offered : [], method === 'own');
  const own = method === 'own';
  return {
    ...blankSpot(crypto.randomUUID(), name, channel),
    ...fromLibrary(limits, classByName(name, family) ?? UNNAMED, drive),
    method,
    byHand: method === 'infrared',
    sensor: own ? `own ${channel}` : method === 'infrared' ? 'IR' : channel.toUpperCase().replace(/(\D)(\d)/, '$1 $2'),
    accuracyK: own ? 3 : method === 'infrared' ? 2 : 0.5,
    resolutionK: own ? 1 : 0.1,
    placementK: own ? 5 : method === 'infrared' ? 1.5 : 0.5,
  };
}
