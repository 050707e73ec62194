import { NetworkPropagator, sumLevels, type ThermalLink, type ThermalNode } from '@red-ember/core';
import type { LinkChannel, LinkControl } from '@red-ember/contract';
import { Controls, fanFlow, fanSoundDb, type ControlValue } from '../bench/controls.ts';
import { PlantedFaults } from '../bench/faults.ts';
import type { BenchOptions } from '../bench/options.ts';
import { SeededRandom } from '../bench/random.ts';
import { Room, type RoomSpec } from '../bench/room.ts';
import { Sensor, type SensorSpec } from '../bench/sensor.ts';
import { DRIVE, DRIVES, driveSetup, type DriveSetup } from './setups.ts';

export const DRIVE_CHANNELS: LinkChannel[] = [
  { key: 'tc1', label: 'Thermocouple 1, controller', quantity: 'temperature', unit: '°C' },
  { key: 'tc2', label: 'Thermocouple 2, flash top face', quantity: 'temperature', unit: '°C' },
  { key: 'tc3', label: 'Thermocouple 3, flash underside', quantity: 'temperature', unit: '°C' },
  { key: 'own', label: "Drive's own sensor", quantity: 'temperature', unit: '°C' },
  { key: 'room', label: 'Room probe', quantity: 'temperature', unit: '°C' },
  { key: 'throughput', label: 'Write throughput', quantity: 'throughput', unit: 'MB/s' },
  { key: 'power', label: 'Drive power', quantity: 'power', unit: 'W' },
  { key: 'utilisation', label: 'Time busy', quantity: 'utilisation', unit: '%' },
  { key: 'duty', label: 'Fan duty', quantity: 'duty', unit: '%' },
  { key: 'fan', label: 'Fan on the sink', quantity: 'rotation', unit: 'rpm' },
  { key: 'level', label: 'Sound level', quantity: 'level', unit: 'dB(A)' },
];

export const DRIVE_CONTROLS: LinkControl[] = [{ key: 'fan-duty', label: 'Fan on the sink', unit: '%', usual: 100, least: 0, most: 100 }];

export interface DriveBenchOptions extends BenchOptions {
  /** Spikes of background work, an hour and sensor; 4 where nothing is said. */
  spikesPerHour?: number;
}

const NODES = ['controller', 'flashTop', 'flashUnder', 'board'] as const;

/**
 * M.2 drive on the simulated bench: a lumped network under a sustained write, with throttling, sensors and a drifting room.
 * Deterministic by seed and by the loads it is given; knows nothing of clocks or sockets.
 */
export class DriveBench {
  tS = 0;
  throttled = false;
  /** Shut off by itself and gone from the machine. */
  vanished = false;
  /** What it did by itself since somebody last asked. */
  readonly happened: string[] = [];
  readonly faults: PlantedFaults;
  private readonly setup: DriveSetup;
  private readonly controls: Controls;
  private readonly nodes: ThermalNode[];
  private readonly links: (fan: number) => ThermalLink[];
  private readonly kept = new Map<number, NetworkPropagator>();
  private state: Float64Array;
  private readonly room: Room;
  private readonly random: SeededRandom;
  private readonly sensors: Record<'tc1' | 'tc2' | 'tc3' | 'own', Sensor>;
  private readonly roomSensor: Sensor;
  private readonly spikesPerHour: number;
  private roomC: number;

  constructor(options: DriveBenchOptions) {
    const setup = driveSetup(options.setup);
    this.setup = setup;
    this.controls = new Controls(DRIVE_CONTROLS, {});
    this.faults = new PlantedFaults(options.faults ?? [], options.seed, ['tc1', 'tc2', 'tc3']);
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
    this.room = new Room(this.faults.room(spec), this.random);
    this.roomC = this.room.at(0, 1);
    // Run to run the air moves a little differently; mount to mount the pads press and the probes sit differently.
    const air = 1 + 0.006 * this.random.normal();
    const pads = Math.exp(0.05 * fit.normal()) * this.faults.padShare;
    const { cover } = setup;
    const nodes: ThermalNode[] = [
      ...NODES.map((id) => ({ id: id as string, capacityJPerK: DRIVE.capacityJPerK[id], initialC: this.roomC })),
      { id: 'slot', capacityJPerK: DRIVE.capacityJPerK.slot, initialC: this.roomC },
    ];
    const links = (fan: number): ThermalLink[] => [
      { from: 'controller', to: 'board', conductanceWPerK: DRIVE.toBoard.controller },
      { from: 'flashTop', to: 'board', conductanceWPerK: DRIVE.toBoard.flashTop },
      { from: 'flashUnder', to: 'board', conductanceWPerK: DRIVE.toBoard.flashUnder },
      { from: 'board', to: 'slot', conductanceWPerK: DRIVE.boardToSlot },
      { from: 'slot', to: 'room', conductanceWPerK: DRIVE.slotToRoom },
      ...NODES.map((id) => ({ from: id, to: 'room', conductanceWPerK: setup.toRoom[id] * air })),
      ...(cover
        ? [
            { from: 'controller', to: 'cover', conductanceWPerK: cover.fromController * pads },
            { from: 'flashTop', to: 'cover', conductanceWPerK: cover.fromFlashTop * pads },
            { from: 'cover', to: 'room', conductanceWPerK: cover.toRoom * air * (1 + ((cover.fan ?? 1) - 1) * fan) },
          ]
        : []),
    ];
    if (cover) nodes.push({ id: 'cover', capacityJPerK: cover.capacityJPerK, initialC: this.roomC });
    this.nodes = nodes;
    this.links = links;
    this.state = this.settledState(0);
    const probe = (placementK: number): SensorSpec => ({
      lagS: 3,
      offsetK: placementK * fit.normal(),
      noiseK: 0.07,
      noiseTauS: 4,
      resolutionK: 0.1,
    });
    this.sensors = {
      tc1: new Sensor(this.faults.sensorSpec('tc1', probe(0.22)), this.random),
      tc2: new Sensor(this.faults.sensorSpec('tc2', probe(0.15)), this.random),
      tc3: new Sensor(this.faults.sensorSpec('tc3', probe(0.18)), this.random),
      // The part's own sensor sits in the controller's corner and is read in whole degrees.
      own: new Sensor({ lagS: 6, offsetK: -2.5 + 0.3 * fit.normal(), noiseK: 0.5, noiseTauS: 20, resolutionK: 1 }, this.random),
    };
    this.roomSensor = new Sensor({ lagS: 20, offsetK: 0, noiseK: 0.03, noiseTauS: 30, resolutionK: 0.1 }, this.random);
    this.spikesPerHour = this.faults.spikesPerHour(options.spikesPerHour ?? 4);
  }

  set(control: string, value: ControlValue): void {
    this.controls.set(control, value);
  }

  /** Duty at which the fan on the sink really turns; 0 where there is none. */
  private turnedDuty(): number {
    if (!this.setup.cover?.fan) return 0;
    if (this.faults.has('fan-wires-swapped')) return 100;
    return this.faults.has('fan-wrong-header') ? 30 : this.controls.number('fan-duty');
  }

  /** The network with the fan as it turns. */
  private get propagator(): NetworkPropagator {
    const flow = this.turnedDuty() === 0 ? 0 : Math.round(100 * fanFlow(this.turnedDuty(), 100)) / 100;
    let kept = this.kept.get(flow);
    if (!kept) this.kept.set(flow, (kept = new NetworkPropagator(this.nodes, ['room'], this.links(flow))));
    return kept;
  }

  /** Share of its work that a throttled drive still does. */
  private get slowed(): number {
    return this.throttled ? DRIVES[this.setup.drive ?? '4T'].throttleTo : 1;
  }

  /** Heat of each node at a load, W. */
  private heat(loadPercent: number): Float64Array {
    const work = (loadPercent / 100) * this.slowed;
    const powerW = new Float64Array(this.nodes.length);
    if (this.vanished) return powerW;
    const { heat, under } = DRIVES[this.setup.drive ?? '4T'];
    const share = { controller: heat, board: heat, flashUnder: heat * under, flashTop: heat * (2 - under) };
    NODES.forEach((id, i) => {
      const nominal = share[id] * (DRIVE.idleW[id] + work * (DRIVE.loadW[id] - DRIVE.idleW[id]));
      powerW[i] = nominal * (1 + DRIVE.powerTempCo * ((this.state?.[i] ?? 25) - 25));
    });
    return powerW;
  }

  /** A machine that has been idling for a while: the bench starts settled at idle. */
  private settledState(loadPercent: number): Float64Array {
    const forcing = { powerW: this.heat(loadPercent), boundaryC: Float64Array.of(this.roomC) };
    const start = new Float64Array(this.nodes.length).fill(this.roomC);
    return this.propagator.advance(start, 1e6, forcing);
  }

  /** Advances by `dtS` at a load and returns what every channel shows. */
  step(dtS: number, loadPercent: number): Record<string, number | null> {
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
    this.shutOff(controller);
    const work = this.vanished ? 0 : (loadPercent / 100) * this.slowed;
    const drawn = powerW.reduce((sum, value) => sum + value, 0);
    const spike = () => (this.random.uniform() < (this.spikesPerHour * dtS) / 3600 ? 4 + 4 * this.random.uniform() : 0);
    const { faults } = this;
    const duty = this.turnedDuty();
    const own = this.sensors.own.read(0.8 * controller + 0.2 * board, dtS);
    const shown = {
      tc1: faults.through('tc1', this.sensors.tc1.read(faults.felt('tc1', controller, board), dtS) + spike(), dtS),
      tc2: faults.through('tc2', this.sensors.tc2.read(faults.felt('tc2', flashTop, board), dtS) + spike(), dtS),
      tc3: faults.through('tc3', this.sensors.tc3.read(faults.felt('tc3', flashUnder, board), dtS) + spike(), dtS),
      own: this.vanished ? null : own,
      room: this.roomSensor.read(this.roomC, dtS),
      throughput: this.vanished ? null : Math.max(0, work * DRIVE.throughputMBps * (1 + 0.004 * this.random.normal())),
      power: Math.max(0, drawn * (1 + 0.003 * this.random.normal())),
      utilisation: this.vanished ? null : loadPercent === 0 ? 0 : Math.min(100, 99.4 + 0.3 * this.random.normal()),
    };
    if (!this.setup.cover?.fan) return shown;
    const level = sumLevels([fanSoundDb(duty, 100, DRIVE.fanFullDb), DRIVE.floorDb]) + 0.2 * this.random.normal();
    return {
      ...shown,
      duty: this.controls.number('fan-duty'),
      fan: faults.has('fan-wires-swapped') ? 0 : Math.round((duty / 100) * DRIVE.fanFullRpm * (1 + 0.003 * this.random.normal())),
      level: Math.round(10 * level) / 10,
    };
  }

  /** A drive that is far too hot leaves the machine, and comes back when it has cooled. */
  private shutOff(controllerC: number): void {
    if (!this.vanished && controllerC >= DRIVE.shutOffAtC) {
      this.vanished = true;
      this.happened.push('The drive shut off and is gone from the machine.');
    } else if (this.vanished && controllerC <= DRIVE.returnAtC) {
      this.vanished = false;
      this.throttled = false;
      this.happened.push('The drive is back.');
    }
  }

  /** True temperatures, for tests that compare readings with the truth. */
  get truth(): Record<string, number> {
    return { ...Object.fromEntries(this.nodes.map(({ id }, i) => [id, this.state[i]!])), room: this.roomC };
  }
}
