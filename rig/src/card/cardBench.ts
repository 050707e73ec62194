import { sumLevels, type ThermalLink } from '@red-ember/core';
import { Controls, fanFlow, fanSoundDb, finShare, type ControlValue } from '../bench/controls.ts';
import { PlantedFaults } from '../bench/faults.ts';
import { HeatNetwork } from '../bench/heatNetwork.ts';
import type { BenchOptions } from '../bench/options.ts';
import { SeededRandom } from '../bench/random.ts';
import { Room, usualRoom } from '../bench/room.ts';
import { Sensor } from '../bench/sensor.ts';
import { ownSensor, ROOM_PROBE, SensorBank, thermocouple } from '../bench/sensorBank.ts';
import { CARD_CONTROLS } from './channels.ts';
import { CARD, cardSetup, COOLERS, PASTES, PLACES, PUMP, type CardSetup, type Cooler } from './parameters.ts';

/** Density times heat capacity of room air. */
const AIR_J_PER_M3K = 1200;

/** Conductances are looked up at whole percents of flow, so that few of them are worked out. */
const percent = (share: number) => Math.round(100 * share);

/**
 * Graphics card on the simulated bench, on the open bench or in a case with a processor above it: clock steps with temperature,
 * power, clock and thermal limits, a processor that may not feed it, fans locked or automatic. Deterministic by seed and by what it
 * is told.
 */
export class CardBench {
  readonly faults: PlantedFaults;
  private readonly setup: CardSetup;
  private readonly cooler: Cooler;
  private readonly controls: Controls;
  private readonly random: SeededRandom;
  private readonly room: Room;
  private readonly heat: HeatNetwork;
  private readonly sensors: SensorBank;
  private readonly roomSensor: Sensor;
  private readonly air: number;
  private readonly coreToSink: number;
  private readonly pads: number;
  private tS = 0;
  private clockMHz = 300;
  private cutMHz = 0;
  private duty = CARD.fanCurve.least as number;
  private freeDuty = CARD.fanCurve.least as number;
  private pumpDuty = PUMP.curve.least as number;

  constructor(options: BenchOptions) {
    this.setup = cardSetup(options.setup);
    this.cooler = COOLERS[this.setup.cooler];
    this.controls = new Controls(CARD_CONTROLS, this.setup.set);
    this.faults = new PlantedFaults(options.faults ?? [], options.seed, ['die', 'mem', 'stages', 'sink', 'intake']);
    this.random = new SeededRandom(options.seed);
    const fit = new SeededRandom(options.mountSeed);
    this.room = new Room(this.faults.room(usualRoom(this.random, options.room)), this.random);
    this.air = 1 + 0.006 * this.random.normal();
    // Mount to mount, paste and pads come out a little differently.
    const spread = 1 / (1 / this.cooler.coreToSink + PASTES[this.setup.paste]);
    this.coreToSink = spread * Math.exp(0.025 * fit.normal());
    this.pads = Math.exp(0.04 * fit.normal()) * this.faults.padShare;
    this.heat = new HeatNetwork({ ...CARD.capacityJPerK, sink: this.cooler.sinkJPerK }, this.room.at(0, 1));
    this.sensors = new SensorBank(
      {
        die: { spec: ownSensor(0.4 * fit.normal()), node: 'core', neighbour: 'sink' },
        hot: { spec: ownSensor(0.5 * fit.normal(), 1), node: 'hotSpot', neighbour: 'core' },
        mem: { spec: ownSensor(1.5 + 0.5 * fit.normal()), node: 'memory', neighbour: 'sink' },
        stages: { spec: thermocouple(0.5, fit), node: 'stages', neighbour: 'sink' },
        sink: { spec: thermocouple(0.3, fit), node: 'sink', neighbour: 'caseAir' },
        intake: { spec: thermocouple(0.2, fit), node: 'caseAir', neighbour: 'sink' },
        exhaust: { spec: thermocouple(0.3, fit), node: 'exhaust', neighbour: 'caseAir' },
        processor: { spec: ownSensor(0.5 * fit.normal()), node: 'processor', neighbour: 'upperAir' },
      },
      this.faults,
      this.random,
      2,
    );
    this.roomSensor = new Sensor(ROOM_PROBE, this.random);
    this.soakIdle();
  }

  set(control: string, value: ControlValue): void {
    this.controls.set(control, value);
  }

  /** True temperatures, for tests that compare readings with the truth. */
  get truth(): Record<string, number> {
    return this.heat.temperatures;
  }

  /** A machine that has been idling for a while. */
  private soakIdle(): void {
    const roomC = this.truth.room!;
    for (let i = 0; i < 40; i++) {
      this.turnFans(60);
      this.heat.advance(600, this.flowKey(), () => this.links(), this.powers(this.cardPower(CARD.mostClockMHz, 0, 1)), roomC);
    }
  }

  /** Share of full flow that each fan of the card gives. */
  private flows(): [number, number] {
    return [this.duties()[0], this.duties()[1]].map((duty) => fanFlow((duty / 100) * CARD.fanFullRpm, CARD.fanFullRpm)) as [number, number];
  }

  /** Duty at which each fan really turns, faults included. */
  private duties(): [number, number] {
    if (this.faults.has('fan-wires-swapped')) return [100, 100];
    const first = this.faults.has('fan-wrong-header') ? 40 : this.duty;
    const own = this.controls.number('fan2-duty');
    return [first, this.faults.has('fan-free') ? this.freeDuty : own > 0 ? own : first];
  }

  private caseAirWPerK(): number {
    const place = PLACES[this.setup.place];
    const fans = place.fans * (this.controls.number('case-fans') / 100) ** 0.8 * (this.controls.is('vent', 'blocked') ? 0.3 : 1);
    const leak = place.leak * (this.controls.is('vent', 'blocked') && place.fans > 0 ? 0.7 : 1);
    return (
      leak + fans + (this.controls.is('side-panel', 'off') ? place.side : 0) + (this.controls.is('front-panel', 'off') ? place.front : 0)
    );
  }

  private flowKey(): string {
    return `${this.flows().map(percent).join('/')} ${this.caseAirWPerK().toFixed(2)} ${percent(this.pumpDuty / 100)}`;
  }

  /** Core to what sheds its heat: through paste and plate, and of a loop with a pump through a film of water as well. */
  private coreWPerK(): number {
    const { waterWPerK } = this.cooler;
    if (!waterWPerK) return this.coreToSink;
    return 1 / (1 / this.coreToSink + 1 / (waterWPerK * (percent(this.pumpDuty / 100) / 100) ** 0.7));
  }

  /** Sink to the air that its fans move, W/K. */
  private sinkWPerK(): number {
    const [one, two] = this.flows().map((flow) => finShare(percent(flow) / 100)) as [number, number];
    return this.cooler.sinkToAir * ((one + two) / 2) * this.air;
  }

  private links(): ThermalLink[] {
    const { cooler, pads } = this;
    const toAir = this.sinkWPerK();
    const out = this.caseAirWPerK();
    const link = (from: string, to: string, conductanceWPerK: number): ThermalLink => ({ from, to, conductanceWPerK });
    return [
      link('core', 'sink', this.coreWPerK()),
      link('memory', 'sink', cooler.memoryToSink * pads),
      link('stages', 'sink', cooler.stagesToSink * pads),
      // Bare surfaces of board and back keep what has lost its pad from running away.
      link('memory', 'caseAir', 0.35),
      link('stages', 'caseAir', 0.3),
      link('sink', 'caseAir', toAir * (1 - cooler.upward)),
      link('sink', 'upperAir', toAir * cooler.upward),
      link('sink', 'frame', CARD.sinkToFrame),
      link('frame', 'room', CARD.frameToRoom),
      link('caseAir', 'upperAir', 12),
      link('caseAir', 'room', 0.5 * out),
      link('upperAir', 'room', 0.5 * out),
      cooler.processorToSink ? link('processor', 'sink', cooler.processorToSink) : link('processor', 'upperAir', CARD.processorSinkWPerK),
    ];
  }

  /** Power of the card at a clock and share of time busy, W. */
  private cardPower(clockMHz: number, load: number, busy: number): number {
    const warmth = 1 + CARD.powerTempCo * ((this.heat?.of('core') ?? 30) - 65);
    const volts = (this.controls.number('core-voltage') / CARD.usualVoltageMV) ** 2;
    return CARD.idleW * warmth + CARD.loadW * load * busy * (clockMHz / CARD.mostClockMHz) ** CARD.powerExponent * warmth * volts;
  }

  private powers(cardW: number): Record<string, number> {
    const { core, memory, stages } = CARD.share;
    return {
      core: core * cardW,
      memory: memory * cardW,
      stages: stages * cardW,
      sink: (1 - core - memory - stages) * cardW,
      processor: this.controls.number('processor-load'),
    };
  }

  /** Clock that the card takes: stepped with temperature, held under the power limit, cut to hold the core at its limit. */
  private takeClock(load: number, busy: number, dtS: number): void {
    const coreC = this.heat.of('core');
    const steps = Math.max(0, Math.ceil((coreC - CARD.stepsFromC) / CARD.stepEveryK));
    if (coreC >= CARD.throttleAtC) this.cutMHz = Math.min(1600, this.cutMHz + 12 * dtS);
    else if (coreC < CARD.recoverAtC) this.cutMHz = Math.max(0, this.cutMHz - 6 * dtS);
    let clock = CARD.mostClockMHz - CARD.stepMHz * steps - this.cutMHz;
    const fixedW = this.cardPower(0, 0, 0);
    const dynamicW = this.cardPower(CARD.mostClockMHz, load, busy) - fixedW;
    const room = this.controls.number('power-limit') - fixedW;
    if (dynamicW > 0) clock = Math.min(clock, CARD.mostClockMHz * (room / dynamicW) ** (1 / CARD.powerExponent));
    this.clockMHz = load === 0 ? 300 : Math.max(300, CARD.clockStepMHz * Math.floor(clock / CARD.clockStepMHz));
  }

  private turnFans(dtS: number): void {
    const { least, footC, perK, hysteresis, slewPerS } = CARD.fanCurve;
    const wanted = Math.min(100, Math.max(least, least + perK * (this.heat.of('core') - footC)));
    const follow = (duty: number) => {
      if (wanted < duty && wanted > duty - hysteresis) return duty;
      return duty + Math.max(-slewPerS * dtS, Math.min(slewPerS * dtS, wanted - duty));
    };
    this.freeDuty = follow(this.freeDuty);
    this.duty = this.controls.is('fan-mode', 'automatic') ? follow(this.duty) : this.controls.number('fan-duty');
    const { curve } = PUMP;
    const followedC = this.controls.is('pump-follows', 'board') ? this.heat.of('caseAir') : this.heat.of('core');
    const pump = Math.min(100, Math.max(curve.least, curve.least + curve.perK * (followedC - curve.footC)));
    this.pumpDuty += Math.max(-slewPerS * dtS, Math.min(slewPerS * dtS, pump - this.pumpDuty));
  }

  /** What leaves the cooler: what it took in, warmed by what the sink sheds into it, which is not yet all that the card draws. */
  private exhaustC(): number {
    const [one, two] = this.flows();
    const airWPerK = AIR_J_PER_M3K * CARD.airFullM3PerS * finShare((one + two) / 2);
    const { sink, caseAir, upperAir } = this.truth as Record<'sink' | 'caseAir' | 'upperAir', number>;
    const { upward } = this.cooler;
    const shedW = this.sinkWPerK() * (sink - (1 - upward) * caseAir - upward * upperAir);
    return caseAir + shedW / airWPerK;
  }

  private soundDb(): number {
    const card = this.duties().map((duty) =>
      fanSoundDb((duty / 100) * CARD.fanFullRpm, CARD.fanFullRpm, CARD.fanFullDb - 3 + this.cooler.soundDb),
    );
    const caseFans = (this.controls.number('case-fans') / 100) * CARD.caseFanFullRpm;
    const others = PLACES[this.setup.place].fans > 0 ? [fanSoundDb(caseFans, CARD.caseFanFullRpm, CARD.caseFanFullDb)] : [];
    const pump = this.cooler.waterWPerK ? [fanSoundDb((this.pumpDuty / 100) * PUMP.fullRpm, PUMP.fullRpm, PUMP.fullDb)] : [];
    return sumLevels([...card, ...others, ...pump, CARD.floorDb]);
  }

  /** Advances by `dtS` at a load and returns what every channel shows. */
  step(dtS: number, loadPercent: number): Record<string, number | null> {
    this.tS += dtS;
    const load = loadPercent / 100;
    const roomC = this.room.at(this.tS, dtS);
    this.turnFans(dtS);
    const able = (this.clockMHz / CARD.mostClockMHz) * load;
    const busy = able > this.setup.supply * load ? this.setup.supply / (this.clockMHz / CARD.mostClockMHz) : 1;
    this.takeClock(load, busy, dtS);
    const cardW = this.cardPower(this.clockMHz, load, busy);
    this.heat.advance(dtS, this.flowKey(), () => this.links(), this.powers(cardW), roomC);
    const truth = this.truth;
    const hotSpot = truth.core! + CARD.hotSpotKPerW * CARD.share.core * cardW;
    const jitter = (share: number) => 1 + share * this.random.normal();
    const [one, two] = this.duties();
    const shown = (duty: number) => (this.faults.has('fan-wires-swapped') ? 0 : Math.round((duty / 100) * CARD.fanFullRpm * jitter(0.003)));
    return {
      ...this.sensors.read({ ...truth, hotSpot, exhaust: this.exhaustC() }, dtS),
      room: this.roomSensor.read(roomC, dtS),
      throughput: CARD.framesPerS * (this.clockMHz / CARD.mostClockMHz) * load * busy * jitter(0.004),
      utilisation: load === 0 ? 1 + this.random.uniform() : Math.min(100, 99.3 * load * busy + 0.4 * this.random.normal()),
      power: cardW * jitter(0.004),
      wall: ((cardW + this.controls.number('processor-load') + CARD.restW) / CARD.supplyEfficiency) * jitter(0.004),
      neighbour: this.controls.number('processor-load'),
      clock: this.clockMHz,
      duty: Math.round(this.duty),
      fan: shown(one),
      fan2: shown(two),
      pump: this.cooler.waterWPerK ? Math.round((this.pumpDuty / 100) * PUMP.fullRpm) : null,
      level: Math.round(10 * (this.soundDb() + 0.2 * this.random.normal())) / 10,
    };
  }
}
