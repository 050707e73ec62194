import { sumLevels, type ThermalLink } from '@red-ember/core';
import type { BenchOptions } from '../bench/options.ts';
import { Controls, fanFlow, fanSoundDb, finShare, type ControlValue } from '../bench/controls.ts';
import { PlantedFaults } from '../bench/faults.ts';
import { HeatNetwork } from '../bench/heatNetwork.ts';
import { SeededRandom } from '../bench/random.ts';
import { Room, usualRoom } from '../bench/room.ts';
import { Sensor } from '../bench/sensor.ts';
import { infrared, ownSensor, ROOM_PROBE, SensorBank, thermocouple, type Placed } from '../bench/sensorBank.ts';
import { BOARD_SENSORS, HAND_SENSORS, REGULATOR_CONTROLS, REGULATOR_SENSORS } from './channels.ts';
import { BOARDS, COOLINGS, PADS, PLATES, REGULATOR, regulatorSetup, type Cooling, type RegulatorSetup } from './parameters.ts';

const percent = (share: number) => Math.round(100 * share);

/**
 * A board with its regulator on the simulated bench: loaded through the processor, losing more as it warms, asking the processor to
 * halve its power when it is too hot, with a fan that is locked or follows the firmware. Deterministic by seed and by what it is told.
 */
export class RegulatorBench {
  readonly faults: PlantedFaults;
  /** The board asks the processor to hold back. */
  throttled = false;
  private readonly setup: RegulatorSetup;
  private readonly cooling: Cooling;
  private readonly controls: Controls;
  private readonly random: SeededRandom;
  private readonly room: Room;
  private readonly heat: HeatNetwork;
  private readonly sensors: SensorBank;
  private readonly roomSensor: Sensor;
  private readonly air: number;
  private readonly pads: number;
  private tS = 0;
  private duty = 30;

  constructor(options: BenchOptions) {
    this.setup = regulatorSetup(options.setup);
    this.cooling = COOLINGS[this.setup.cooling];
    this.controls = new Controls(REGULATOR_CONTROLS, this.setup.set);
    this.faults = new PlantedFaults(options.faults ?? [], options.seed, Object.keys(REGULATOR_SENSORS));
    this.random = new SeededRandom(options.seed);
    const fit = new SeededRandom(options.mountSeed);
    this.room = new Room(
      this.faults.room(usualRoom(this.random, { ...(this.setup.roomC ? { startC: this.setup.roomC } : {}), ...options.room })),
      this.random,
    );
    this.air = 1 + 0.008 * this.random.normal();
    this.pads = Math.exp(0.05 * fit.normal()) * this.faults.padShare;
    this.heat = new HeatNetwork({ ...REGULATOR.capacityJPerK, cooler: this.cooling.coolerJPerK }, this.room.at(0, 1));
    const board = BOARDS[this.setup.board];
    const placed: Record<string, Placed> = {};
    for (const [key, sensor] of Object.entries(REGULATOR_SENSORS)) placed[key] = { ...sensor, spec: thermocouple(0.45, fit) };
    for (const [key, { offsetK, ...sensor }] of Object.entries(BOARD_SENSORS))
      placed[key] = { ...sensor, spec: ownSensor(offsetK + (key === 'vrm' ? board.ownOffsetK : 0) + 0.4 * fit.normal()) };
    for (const [key, hand] of Object.entries(HAND_SENSORS))
      placed[key] = {
        node: hand.node,
        neighbour: hand.node,
        spec: 'emissivity' in hand ? infrared(hand.offsetK, hand.emissivity) : ownSensor(hand.offsetK),
      };
    this.sensors = new SensorBank(placed, this.faults, this.random, 0);
    this.roomSensor = new Sensor(ROOM_PROBE, this.random);
    const roomC = this.truth.room!;
    for (let i = 0; i < 40; i++) this.heat.advance(900, this.flowKey(), () => this.links(), this.powers(0), roomC);
  }

  set(control: string, value: ControlValue): void {
    this.controls.set(control, value);
  }

  get truth(): Record<string, number> {
    const nodes = this.heat.temperatures;
    const share = BOARDS[this.setup.board].ownShare;
    return {
      ...nodes,
      // Fins are cooler at their tips than where they stand.
      fins: nodes.room! + 0.94 * (nodes.sink! - nodes.room!),
      // Without water the thermocouple lies on the bench.
      water: this.cooling.coversStages ? nodes.cooler! : nodes.room!,
      underside: 0.55 * nodes.side! + 0.45 * nodes.board!,
      own: share * nodes.side! + (1 - share) * nodes.board!,
    };
  }

  private turnedDuty(): number {
    if (this.faults.has('fan-wires-swapped')) return 100;
    return this.faults.has('fan-wrong-header') ? 35 : this.duty;
  }

  private flow(): number {
    return fanFlow((this.turnedDuty() / 100) * REGULATOR.fanFullRpm, REGULATOR.fanFullRpm);
  }

  private flowKey(): string {
    return String(percent(this.flow()));
  }

  private links(): ThermalLink[] {
    const flow = percent(this.flow()) / 100;
    const { cooling } = this;
    const plate = PLATES[this.setup.plate];
    const pads = PADS[this.setup.pads];
    const moving = cooling.draught * flow + plate.draught;
    const { toAir, toBoard } = REGULATOR;
    const link = (from: string, to: string, conductanceWPerK: number): ThermalLink => ({ from, to, conductanceWPerK });
    const under = cooling.coversStages ? 'cooler' : 'sink';
    return [
      link('side', under, pads.side * this.pads),
      link('upper', under, pads.upper * this.pads),
      link('side', 'board', toBoard.side),
      link('upper', 'board', toBoard.upper),
      link('inductors', 'board', toBoard.inductors),
      link('capacitors', 'board', toBoard.capacitors),
      link('hub', 'board', toBoard.hub),
      link('processor', 'board', toBoard.processor),
      // Moving air: about five times what still air takes at two metres a second.
      link('sink', 'room', BOARDS[this.setup.board].sinkToAir * plate.sink * (1 + 4 * moving) * this.air),
      link('board', 'room', toAir.board * plate.board * (1 + 1.8 * moving) * this.air),
      link('inductors', 'room', toAir.inductors * (1 + 3 * moving)),
      link('capacitors', 'room', toAir.capacitors * (1 + 3 * moving)),
      link('hub', 'room', toAir.hub * (1 + 2.5 * moving)),
      link('processor', 'cooler', REGULATOR.processorToCooler),
      link('cooler', 'room', cooling.toRoom * finShare(flow)),
    ];
  }

  /** Processor power at a load, W: what it would draw, held by the cap, halved by the board. */
  private processorW(load: number): number {
    if (load === 0) return REGULATOR.idleProcessorW;
    const wanted = Math.max(REGULATOR.idleProcessorW, this.setup.drawW * load);
    return Math.min(wanted, this.controls.number('power-cap')) * (this.throttled ? 0.5 : 1);
  }

  private powers(load: number): Record<string, number> {
    const processor = this.processorW(load);
    const { fixedW, linear, squarePerW } = REGULATOR.loss;
    const warmth = 1 + REGULATOR.lossTempCo * (this.heat.of('side') - 60);
    const lossW = BOARDS[this.setup.board].loss * (fixedW + linear * processor + squarePerW * processor ** 2) * Math.max(0.8, warmth);
    const { share } = REGULATOR;
    return {
      side: share.side * lossW,
      upper: share.upper * lossW,
      inductors: share.inductors * lossW,
      capacitors: share.capacitors * lossW,
      board: share.board * lossW,
      hub: REGULATOR.hubW,
      processor,
    };
  }

  private turnFan(dtS: number): void {
    if (this.controls.is('fan-policy', 'locked')) {
      this.duty = this.controls.number('fan-duty');
      return;
    }
    const wanted = this.controls.is('fan-policy', 'by processor')
      ? 30 + 1.8 * (this.heat.of('processor') - 45)
      : 30 + 1.6 * (this.truth.own! - 55);
    const bounded = Math.min(100, Math.max(30, wanted));
    if (bounded < this.duty && bounded > this.duty - 5) return;
    this.duty += Math.max(-2 * dtS, Math.min(2 * dtS, bounded - this.duty));
  }

  /** Advances by `dtS` at a load and returns what every channel shows. */
  step(dtS: number, loadPercent: number): Record<string, number | null> {
    this.tS += dtS;
    const load = loadPercent / 100;
    this.turnFan(dtS);
    const roomC = this.room.at(this.tS, dtS);
    const powers = this.powers(load);
    this.heat.advance(dtS, this.flowKey(), () => this.links(), powers, roomC);
    const truth = this.truth;
    if (truth.side! >= REGULATOR.throttleAtC) this.throttled = true;
    else if (truth.side! <= REGULATOR.recoverAtC) this.throttled = false;
    const speed =
      load === 0
        ? 0.25
        : Math.min(1, (powers.processor! / Math.max(REGULATOR.idleProcessorW, this.setup.drawW * load)) ** (1 / REGULATOR.powerExponent));
    const jitter = (share: number) => 1 + share * this.random.normal();
    const rpm = (this.turnedDuty() / 100) * REGULATOR.fanFullRpm;
    const level = sumLevels([
      fanSoundDb(rpm, REGULATOR.fanFullRpm, REGULATOR.fanFullDb),
      PLATES[this.setup.plate].soundDb,
      REGULATOR.floorDb,
    ]);
    return {
      ...this.sensors.read(truth, dtS),
      room: this.roomSensor.read(roomC, dtS),
      throughput: load === 0 ? 0 : REGULATOR.rendersPerH * load * speed * jitter(0.005),
      utilisation: load === 0 ? 2 + this.random.uniform() : Math.min(100, 99.5 * load + 0.2 * this.random.normal()),
      power: powers.processor! * jitter(0.004),
      clock: Math.round((REGULATOR.mostClockMHz * speed) / 25) * 25,
      vcore: Math.round(1000 * REGULATOR.voltageV * jitter(0.0015)) / 1000,
      duty: Math.round(this.duty),
      fan: this.faults.has('fan-wires-swapped') ? 0 : Math.round(rpm * jitter(0.003)),
      level: Math.round(10 * (level + 0.2 * this.random.normal())) / 10,
    };
  }
}
