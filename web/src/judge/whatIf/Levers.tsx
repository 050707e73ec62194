import { useId, type ReactNode } from 'react';
import { airOf, fixed, type SpotResponse, type WhatIfKey } from '@red-ember/core';
import type { DrivenBy, StandsOn, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/Field.tsx';
import { useInHand } from '../../ui/useInHand.ts';
import { USUAL_LAYER, type Asked, type LayerAsked } from './address.ts';
import type { SpotWhatIf } from './useWhatIf.ts';

interface LeverProps {
  label: string;
  /** What is asked, in words. */
  shown: string;
  /** As the runs had it; the lever stands there until it is moved. */
  ran: number;
  asked: number | null;
  least: number;
  most: number;
  step: number;
  onAsk: (value: number | null) => void;
  effect: ReactNode;
  children?: ReactNode;
}

/** One thing that can be other than it was: drag it, or use the arrow keys; what it alone does to the spot that binds stands beside it. */
function Lever({ label, shown, ran, asked, least, most, step, onAsk, effect, children }: LeverProps) {
  const id = useId();
  const inHand = useInHand(String(asked ?? ran), (value) => onAsk(Number(value)));
  return (
    <div className="grid grid-cols-[1fr_auto] items-baseline gap-x-3 border-t border-rule py-2">
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      <output htmlFor={id} className={`text-right tabular-nums ${asked === null ? 'text-soft' : 'font-semibold'}`}>
        {shown}
      </output>
      <input
        id={id}
        type="range"
        min={Math.min(least, ran)}
        max={Math.max(most, ran)}
        step={step}
        className="col-span-2 w-full accent-ink"
        aria-valuetext={shown}
        {...inHand}
      />
      <div className="text-[0.87rem] text-soft">{effect}</div>
      <div className="flex gap-2 text-[0.87rem]">
        {children}
        {asked === null ? null : <Back onClick={() => onAsk(null)} of={label} />}
      </div>
    </div>
  );
}

const Back = ({ onClick, of }: { onClick: () => void; of: string }) => (
  <button type="button" className="text-soft underline hover:text-ink" onClick={onClick}>
    as it ran<span className="sr-only">: {of}</span>
  </button>
);

/** What one change does to the spot that binds, and what that rests on. */
function Effect({ of, spot }: { of: WhatIfKey; spot: SpotWhatIf }) {
  const degrees = useDegrees();
  const change = spot.would.changes.find((candidate) => candidate.of === of);
  if (!change) return null;
  const sign = change.byK < 0 ? '−' : '+';
  return (
    <>
      <b className="font-semibold text-ink">{degrees.text(`${sign}${fixed(Math.abs(change.byK), 1)} K`)}</b> at {spot.name},{' '}
      {change.footing}
      {change.beyond ? <span className="block text-ochre-text">{change.beyond}</span> : null}
    </>
  );
}

interface Props {
  study: Study;
  /** The power of a part beside it stands in every run. */
  recorded: boolean;
  drivenBy: DrivenBy;
  standsOn: StandsOn;
  /** The one that is looked at, and all. */
  spot: SpotWhatIf;
  spots: SpotWhatIf[];
  asked: Asked;
  ask: (part: Partial<Asked>) => void;
}

/** Air, power, that of the part beside it, speed, a layer, another cooler: what can be asked of the runs. */
export function Levers({ study, recorded, drivenBy, standsOn, spot, spots, asked, ask }: Props) {
  const degrees = useDegrees();
  const { response } = spot;
  // A layer and a cooler are on the way of one spot: of the one that they were asked of, until they are taken back.
  const atHere = (asked.layer || asked.cooler ? spots.find(({ id }) => id === asked.at) : undefined) ?? spot;
  const effect = (of: WhatIfKey) => <Effect of={of} spot={spot} />;
  const ranC = Math.round(10 * airOf(response)) / 10;
  const ranW = Math.round(10 * response.power.mostW) / 10;
  const unit = drivenBy === 'watts' ? 'W' : '%';
  return (
    <section aria-label="What if">
      <Lever
        label={standsOn === 'room' ? 'Air around it' : 'Air that it breathes'}
        shown={degrees.text(`${fixed(asked.airC ?? ranC, 1)} °C`)}
        ran={ranC}
        asked={asked.airC}
        least={10}
        most={50}
        step={0.5}
        onAsk={(airC) => ask({ airC })}
        effect={effect('airC')}
      >
        {asked.airC === study.enclosure.airC || standsOn !== 'room' ? null : (
          <button type="button" className="text-soft underline hover:text-ink" onClick={() => ask({ airC: study.enclosure.airC })}>
            {degrees.text(`${study.enclosure.name}, ${study.enclosure.airC} °C`)}
          </button>
        )}
      </Lever>
      <Lever
        label={drivenBy === 'watts' ? 'Power' : 'Load'}
        shown={`${fixed(asked.powerW ?? ranW, drivenBy === 'watts' && ranW < 20 ? 1 : 0)} ${unit}`}
        ran={ranW}
        asked={asked.powerW}
        least={0}
        most={drivenBy === 'watts' ? 1.6 * ranW : 100}
        step={ranW < 20 ? 0.1 : 1}
        onAsk={(powerW) => ask({ powerW })}
        effect={effect('powerW')}
      />
      <NeighbourLever
        neighbour={response.neighbour}
        recorded={recorded}
        asked={asked.neighbourW}
        onAsk={(neighbourW) => ask({ neighbourW })}
        effect={effect('neighbourW')}
      />
      <FanLever fan={response.fan} asked={asked.fanShare} onAsk={(fanShare) => ask({ fanShare })} effect={effect('fanShare')} />
      <LayerLever
        at={atHere.name}
        asked={asked.layer}
        onAsk={(layer) => ask({ layer, at: atHere.id })}
        effect={<Effect of="layer" spot={atHere} />}
      />
      <CoolerLever
        at={atHere.name}
        response={atHere.response}
        asked={asked.cooler}
        onAsk={(cooler) => ask({ cooler, at: atHere.id })}
        effect={<Effect of="cooler" spot={atHere} />}
      />
    </section>
  );
}

/** What the part beside it takes; nothing at all where no run recorded that, for most benches have none. */
function NeighbourLever({
  neighbour,
  recorded,
  asked,
  onAsk,
  effect,
}: {
  neighbour: SpotResponse['neighbour'];
  recorded: boolean;
  asked: number | null;
  onAsk: (watts: number | null) => void;
  effect: ReactNode;
}) {
  if (!neighbour)
    return recorded ? (
      <p className="border-t border-rule py-2 text-[0.93rem] text-soft">
        <b className="font-semibold">Part beside it:</b> its power hardly changed, or went with this one’s own: what its heat does is not
        told. A run with it at rest and one with it at work would tell.
      </p>
    ) : null;
  const ranW = Math.round(neighbour.usualW);
  return (
    <Lever
      label="Power of the part beside it"
      shown={`${fixed(asked ?? ranW, 0)} W`}
      ran={ranW}
      asked={asked}
      least={0}
      most={Math.round(neighbour.mostW + 0.5 * (neighbour.mostW - neighbour.leastW))}
      step={1}
      onAsk={onAsk}
      effect={effect}
    />
  );
}

function FanLever({
  fan,
  asked,
  onAsk,
  effect,
}: {
  fan: SpotResponse['fan'];
  asked: number | null;
  onAsk: (share: number | null) => void;
  effect: ReactNode;
}) {
  if (!fan)
    return (
      <p className="border-t border-rule py-2 text-[0.93rem] text-soft">
        <b className="font-semibold">Fan speed:</b> not recorded in these runs.
      </p>
    );
  const share = asked ?? 1;
  return (
    <Lever
      label="Fan speed, held"
      shown={`${fixed(fan.atRpm * share, 0)} rpm`}
      ran={1}
      asked={asked}
      least={0.5}
      most={1.6}
      step={0.01}
      onAsk={onAsk}
      effect={effect}
    />
  );
}

const LAYER_FIELDS: {
  label: string;
  unit: string;
  get: (layer: LayerAsked) => number;
  set: (layer: LayerAsked, value: number) => LayerAsked;
}[] = [
  { label: 'Area', unit: 'mm²', get: ({ areaMm2 }) => areaMm2, set: (layer, areaMm2) => ({ ...layer, areaMm2 }) },
  {
    label: 'Share of the heat',
    unit: '%',
    get: ({ share }) => Math.round(1000 * share) / 10,
    set: (layer, percent) => ({ ...layer, share: Math.min(100, percent) / 100 }),
  },
  { label: 'Now, thick', unit: 'mm', get: ({ now }) => now.mm, set: (layer, mm) => ({ ...layer, now: { ...layer.now, mm } }) },
  {
    label: 'Now, conducts',
    unit: 'W/(m·K)',
    get: ({ now }) => now.conductivityWPerMK,
    set: (layer, conductivityWPerMK) => ({ ...layer, now: { ...layer.now, conductivityWPerMK } }),
  },
  {
    label: 'Then, thick',
    unit: 'mm',
    get: ({ instead }) => instead.mm,
    set: (layer, mm) => ({ ...layer, instead: { ...layer.instead, mm } }),
  },
  {
    label: 'Then, conducts',
    unit: 'W/(m·K)',
    get: ({ instead }) => instead.conductivityWPerMK,
    set: (layer, conductivityWPerMK) => ({ ...layer, instead: { ...layer.instead, conductivityWPerMK } }),
  },
];

/** Something that takes fields, folded until it is asked for. */
function Folded({
  label,
  at,
  open,
  onOpen,
  onClose,
  effect,
  children,
}: {
  label: string;
  at: string;
  open: boolean;
  onOpen: () => void;
  onClose: () => void;
  effect: ReactNode;
  children: ReactNode;
}) {
  return (
    <div className="border-t border-rule py-2">
      <div className="flex items-baseline justify-between gap-3">
        <span>
          <b className="font-semibold">{label}</b>
          <span className="block text-[0.83rem] text-soft">at {at}</span>
        </span>
        {open ? (
          <span className="text-[0.87rem]">
            <Back onClick={onClose} of={label} />
          </span>
        ) : (
          <Button look="quiet" onClick={onOpen}>
            Ask
            <span className="sr-only">: {label}</span>
          </Button>
        )}
      </div>
      {open ? (
        <>
          <div className="mt-1 grid grid-cols-2 gap-2">{children}</div>
          <div className="mt-1 text-[0.87rem] text-soft">{effect}</div>
        </>
      ) : null}
    </div>
  );
}

function LayerLever({
  at,
  asked,
  onAsk,
  effect,
}: {
  at: string;
  asked: LayerAsked | null;
  onAsk: (layer: LayerAsked | null) => void;
  effect: ReactNode;
}) {
  return (
    <Folded
      label="Another pad or paste"
      at={at}
      open={asked !== null}
      onOpen={() => onAsk(USUAL_LAYER)}
      onClose={() => onAsk(null)}
      effect={effect}
    >
      {asked
        ? LAYER_FIELDS.map(({ label, unit, get, set }) => (
            <NumberField
              key={label}
              label={label}
              unit={unit}
              pointer=""
              value={get(asked)}
              onChange={(value) => {
                if (value > 0) onAsk(set(asked, value));
              }}
            />
          ))
        : null}
    </Folded>
  );
}

function CoolerLever({
  at,
  response,
  asked,
  onAsk,
  effect,
}: {
  at: string;
  response: SpotResponse;
  asked: Asked['cooler'];
  onAsk: (cooler: Asked['cooler']) => void;
  effect: ReactNode;
}) {
  const usual = { kPerW: Number(response.gain.value.toPrecision(3)), plusMinus: Number((0.1 * response.gain.value).toPrecision(2)) };
  return (
    <Folded label="Another cooler" at={at} open={asked !== null} onOpen={() => onAsk(usual)} onClose={() => onAsk(null)} effect={effect}>
      {asked ? (
        <>
          <NumberField
            label="Spot to air"
            unit="K/W"
            pointer=""
            value={asked.kPerW}
            onChange={(kPerW) => {
              if (kPerW > 0) onAsk({ ...asked, kPerW });
            }}
          />
          <NumberField
            label="Give or take"
            unit="K/W"
            pointer=""
            value={asked.plusMinus}
            onChange={(plusMinus) => {
              if (plusMinus >= 0) onAsk({ ...asked, plusMinus });
            }}
          />
        </>
      ) : null}
    </Folded>
  );
}
