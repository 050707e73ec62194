import { NetworkPropagator, type ThermalLink, type ThermalNode } from '@red-ember/core';
import type { LinkChannel } from '@red-ember/contract';
import { SeededRandom } from '../random.ts';
import { Room, type RoomSpec } from '../room.ts';
import { Sensor, type SensorSpec } from '../sensors/sensor.ts';
import { DRIVE, driveSetup } from './setups.ts';

export const DRIVE_CHANNELS: LinkChannel[] = [
  { key: 'tc1', label: 'Thermocouple 1, controller', quantity: 'temperature', unit: '°C' },
  { key: 'tc2', label: 'Thermocouple 2, flash top face', quantity: 'temperature', unit: '°C' },
  { key: 'tc3', label: 'Thermocouple 3, flash underside', quantity: 'temperature', unit: '°C' },
  { key: 'own', label: "Drive's own sensor", quantity: 'temperature', unit: '°C' },
  { key: 'room', label: 'Room probe', quantity: 'temperature', unit: '°C' },
  { key: 'throughput', label: 'Write throughput', quantity: 'throughput', unit: 'MB/s' },
  { key: 'power', label: 'Drive power', quantity: 'power', unit: 'W' },
  { key: 'utilisation', label: 'Time busy', quantity: 'utilisation', unit: '%' },
];

export interface DriveBenchOptions {
  setup: string;
  /** Noise and the little that differs from run to run. */
  seed: number;
  /** Fit of pads and probes: the same from run to run within one mount. */
  mountSeed: number;
  room?: Partial<RoomSpec>;
  /** `filmLeftOn`: the protective film between pad and part, under a lid. */
  faults?: { spikesPerHour?: number; filmLeftOn?: boolean };
}

/** What a film and the air beside it leave of a pad's conductance: 0.05 mm of polymer at 0.2 W/m·K, wrinkled. */
const FILM_SHARE = 0.12;

const NODES = ['controller', 'flashTop', 'flashUnder', 'board'] as const;

/**
 * M.2 drive on the simulated bench: a lumped network under a sustained write, with throttling, sensors and a drifting room.
 * Deterministic by seed and by the loads it is given; knows nothing of clocks or sockets.
 */
export class DriveBench {
  tS = 0;
  throttled = false;
  private readonly propagator: NetworkPropagator;
  private state: Float64Array;
  private readonly room: Room;
  private readonly random: SeededRandom;
  private readonly sensors: Record<'tc1' | 'tc2' | 'tc3' | 'own', Sensor>;
  private readonly roomSensor: Sensor;
  private readonly spikesPerHour: number;
  private roomC: number;

  constructor(options: DriveBenchOptions) {
    const setup = driveSetup(options.setup);
    this.random = new SeededRandom(options.seed);
    const fit = new SeededRandom(options.mountSeed);
    const spec: RoomSpec = {
      startC: 22.3 + 0.35 * this.random.normal(),
      driftKPerH: 0.25 + 0.15 * this.random.normal(),
      wanderK: 0.06,
      wanderTauS: 300,
      heater: null,
      ...options.room,
    };
    this.room = new Room(spec, this.random);
    this.roomC = this.room.at(0, 1);
    // Run to run the air moves a little differently; mount to mount the pads press and the probes sit differently.
    const air = 1 + 0.006 * this.random.normal();
    const pads = Math.exp(0.05 * fit.normal()) * (options.faults?.filmLeftOn ? FILM_SHARE : 1);
    const { cover } = setup;
    const nodes: ThermalNode[] = [
      ...NODES.map((id) => ({ id: id as string, capacityJPerK: DRIVE.capacityJPerK[id], initialC: this.roomC })),
      { id: 'slot', capacityJPerK: DRIVE.capacityJPerK.slot, initialC: this.roomC },
    ];
    const links: ThermalLink[] = [
      { from: 'controller', to: 'board', conductanceWPerK: DRIVE.toBoard.controller },
      { from: 'flashTop', to: 'board', conductanceWPerK: DRIVE.toBoard.flashTop },
      { from: 'flashUnder', to: 'board', conductanceWPerK: DRIVE.toBoard.flashUnder },
      { from: 'board', to: 'slot', conductanceWPerK: DRIVE.boardToSlot },
      { from: 'slot', to: 'room', conductanceWPerK: DRIVE.slotToRoom },
      ...NODES.map((id) => ({ from: id, to: 'room', conductanceWPerK: setup.toRoom[id] * air })),
    ];
    if (cover) {
      nodes.push({ id: 'cover', capacityJPerK: cover.capacityJPerK, initialC: this.roomC });
      links.push(
        { from: 'controller', to: 'cover', conductanceWPerK: cover.fromController * pads },
        { from: 'flashTop', to: 'cover', conductanceWPerK: cover.fromFlashTop * pads },
        { from: 'cover', to: 'room', conductanceWPerK: cover.toRoom * air },
      );
    }
    this.propagator = new NetworkPropagator(nodes, ['room'], links);
    this.state = this.settledState(0);
    const probe = (placementK: number): SensorSpec => ({
      lagS: 3,
      offsetK: placementK * fit.normal(),
      noiseK: 0.07,
      noiseTauS: 4,
      resolutionK: 0.1,
    });
    this.sensors = {
      tc1: new Sensor(probe(0.22), this.random),
      tc2: new Sensor(probe(0.15), this.random),
      tc3: new Sensor(probe(0.18), this.random),
      // The part's own sensor sits in the controller's corner and is read in whole degrees.
      own: new Sensor({ lagS: 6, offsetK: -2.5 + 0.3 * fit.normal(), noiseK: 0.5, noiseTauS: 20, resolutionK: 1 }, this.random),
    };
    this.roomSensor = new Sensor({ lagS: 20, offsetK: 0, noiseK: 0.03, noiseTauS: 30, resolutionK: 0.1 }, this.random);
    this.spikesPerHour = options.faults?.spikesPerHour ?? 4;
  }

  /** Heat of each node at a load, W. */
  private heat(loadPercent: number): Float64Array {
    const work = (loadPercent / 100) * (this.throttled ? 0.5 : 1);
    const powerW = new Float64Array(this.propagator.nodeIds.length);
    NODES.forEach((id, i) => {
      const nominal = DRIVE.idleW[id] + work * (DRIVE.loadW[id] - DRIVE.idleW[id]);
      powerW[i] = nominal * (1 + DRIVE.powerTempCo * ((this.state?.[i] ?? 25) - 25));
    });
    return powerW;
  }

  /** A machine that has been idling for a while: the bench starts settled at idle. */
  private settledState(loadPercent: number): Float64Array {
    const forcing = { powerW: this.heat(loadPercent), boundaryC: Float64Array.of(this.roomC) };
    const start = new Float64Array(this.propagator.nodeIds.length).fill(this.roomC);
    return this.propagator.advance(start, 1e6, forcing);
  }

  /** Advances by `dtS` at a load and returns what every channel shows. */
  step(dtS: number, loadPercent: number): Record<string, number> {
    const from = this.roomC;
    this.tS += dtS;
    this.roomC = this.room.at(this.tS, dtS);
    const powerW = this.heat(loadPercent);
    this.state = this.propagator.advance(
      this.state,
      dtS,
      { powerW, boundaryC: Float64Array.of(from) },
      { powerW, boundaryC: Float64Array.of(this.roomC) },
    );
    const [controller, flashTop, flashUnder, board] = this.state as unknown as [number, number, number, number];
    if (controller >= DRIVE.throttleAtC) this.throttled = true;
    else if (controller <= DRIVE.recoverAtC) this.throttled = false;
    const work = (loadPercent / 100) * (this.throttled ? 0.5 : 1);
    const drawn = powerW.reduce((sum, value) => sum + value, 0);
    const spike = () => (this.random.uniform() < (this.spikesPerHour * dtS) / 3600 ? 4 + 4 * this.random.uniform() : 0);
    return {
      tc1: this.sensors.tc1.read(controller, dtS) + spike(),
      tc2: this.sensors.tc2.read(flashTop, dtS) + spike(),
      tc3: this.sensors.tc3.read(flashUnder, dtS) + spike(),
      own: this.sensors.own.read(0.8 * controller + 0.2 * board, dtS),
      room: this.roomSensor.read(this.roomC, dtS),
      throughput: Math.max(0, work * DRIVE.throughputMBps * (1 + 0.004 * this.random.normal())),
      power: Math.max(0, drawn * (1 + 0.003 * this.random.normal())),
      utilisation: loadPercent === 0 ? 0 : Math.min(100, 99.4 + 0.3 * this.random.normal()),
    };
  }

  /** True temperatures, for tests that compare readings with the truth. */
  get truth(): Record<string, number> {
    return { ...Object.fromEntries(this.propagator.nodeIds.map((id, i) => [id, this.state[i]!])), room: this.roomC };
  }
}
