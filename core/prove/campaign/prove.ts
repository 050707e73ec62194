import { line, share, type Claim } from '../claim.ts';
import { campaign, fairIntervals, type Ended } from './campaign.ts';

/** How studies of every confound ended, one line each: a picture, with no bound of its own. */
function endedInWords({ confound, studies, wrong, unearned, right, noCall, withheld, hours }: Ended): string {
  const of = (count: number, what: string) => (count > 0 ? [`${count} ${what}`] : []);
  const ended = [
    ...of(wrong, 'wrong'),
    ...of(unearned, 'not earned'),
    ...of(right, 'right'),
    ...of(noCall, 'no call'),
    ...of(withheld, 'withheld'),
  ];
  return `${confound}: ${studies} studies, ${ended.join(', ')}; ${Math.round(hours / Math.max(1, studies))} h each`;
}

/** 94 to 98 %, and what 200 studies of two spots that err alike leave open of it. */
const FAIR = [0.92, 0.985] as const;

/** All claims about whole studies. @param each studies of each confound */
export function proveCampaign(each: number, tell: (words: string) => void = () => {}): Claim[] {
  const rows = campaign(each);
  for (const row of rows) tell(endedInWords(row));
  const all = rows.at(-1)!;
  // Two spots of one mount err alike: a few studies say little of a share near one.
  const fair = fairIntervals(5 * each);
  return [
    line('Studies with planted confounds: calls that are wrong or not earned', share(all.wrong + all.unearned, all.studies), 0, 0.005),
    line('Of what can be decided is called', share(all.calledOfDecidable, all.decidable), 0.95, 1),
    line('95 % interval of a difference holds the truth, studies with nothing wrong', share(fair.holding, fair.intervals), ...FAIR),
    line('The same where the bench knows how far its mounts lie apart', share(fair.knownHolding, fair.intervals), ...FAIR),
    line('The same, all studies that may be called: what is not known of them is paid for', share(all.holding, all.intervals), 0.94, 1),
    line('Of those, where the bench knows how far its mounts lie apart', share(all.knownHolding, all.intervals), 0.94, 1),
    line('Calls that are wrong there', share(all.knownWrong, all.studies), 0, 0.005),
  ];
}
