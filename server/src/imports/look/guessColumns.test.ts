import { describe, expect, it } from 'vitest';
import type { Family } from '@red-ember/study';
import { guessColumns } from './guessColumns.ts';

/** What columns of these names are taken for, where all of them read like temperatures of a bench. */
function rolesOf(names: readonly string[], family: Family = 'card'): (string | null)[] {
  const seen = names.map(() => ({ numbers: 100, texts: 0, least: 21, most: 68, step: 0.1, codes: [], unread: 0 }));
  const { columns } = guessColumns({ names, units: names.map(() => ''), samples: names.map(() => []), seen }, [], [], family);
  return names.map((_, column) => columns.find((map) => map.column === column)?.role ?? null);
}

describe('what a column holds, by its name', () => {
  it('is known in other tongues', () => {
    expect(rolesOf(['Température GPU (°C)', 'Température ambiante (°C)', 'Puissance (W)', 'Ventilateur (%)'])).toEqual([
      'spot',
      'room',
      'power',
      'duty',
    ]);
    expect(rolesOf(['Grafikchip (°C)', 'Raumluft (°C)', 'Leistung (W)', 'Lüfter (%)'])).toEqual(['spot', 'room', 'power', 'duty']);
    expect(rolesOf(['Temperatura GPU (°C)', 'Temperatura ambiente (°C)', 'Potencia (W)', 'Ventilador (rpm)'])).toEqual([
      'spot',
      'room',
      'power',
      'fan',
    ]);
  });
  it('is a fan’s duty where the fan is numbered and read in percent beside its turns', () => {
    expect(rolesOf(['GPU Temperature (°C)', 'GPU Fan1 [%]', 'GPU Fan1 [RPM]', 'Pump [%]'])).toEqual(['spot', 'duty', 'fan', null]);
  });

  it('is never what the machine about the part takes, does and runs at', () => {
    const card = ['GPU Temperature (°C)', 'CPU Package Power [W]', 'CPU Total Usage [%]', 'CPU Clock [MHz]'];
    expect(rolesOf([...card, 'GPU Power [W]', 'GPU Load [%]', 'GPU Clock [MHz]'])).toEqual([
      'spot',
      'neighbour',
      null,
      null,
      'power',
      'utilisation',
      'clock', // prettier-ignore
    ]);
    expect(rolesOf(card)).toEqual(['spot', 'neighbour', null, null]);
    expect(rolesOf(['SSD Controller (°C)', 'GPU Power [W]', 'Drive Power [W]', 'CPU Load [%]'], 'drive')).toEqual([
      'spot',
      'neighbour',
      'power',
      null, // prettier-ignore
    ]);
    expect(rolesOf(['VRM MOS (°C)', 'CPU Package Power [W]', 'GPU Power [W]', 'CPU Usage [%]'], 'regulator')).toEqual([
      'spot',
      'power',
      'neighbour',
      'utilisation', // prettier-ignore
    ]);
  });

  it('is the part’s own where a log holds the whole machine', () => {
    const names = [
      'Core Clocks (avg) [MHz]',
      'Total CPU Usage [%]',
      'Core Usage (avg) [%]',
      'CPU Package Power [W]',
      'IA Cores Power [W]',
      'CPU [RPM]',
      'System 1 [RPM]', // prettier-ignore
      'GPU Temperature [°C]',
      'GPU Fan1 [RPM]',
      'GPU Fan2 [RPM]',
      'GPU Fan1 [%]',
      'GPU Power (Total) [% of TDP]',
      'GPU Power Maximum [W]',
      'GPU Power [W]', // prettier-ignore
      'GPU Clock [MHz]',
      'GPU Memory Clock [MHz]',
      'GPU Core Load [%]',
      'Framerate [FPS]', // prettier-ignore
    ];
    expect(Object.fromEntries(rolesOf(names).map((role, i) => [names[i]!, role]))).toEqual({
      'Core Clocks (avg) [MHz]': null,
      'Total CPU Usage [%]': null,
      'Core Usage (avg) [%]': null,
      'CPU Package Power [W]': 'neighbour',
      'IA Cores Power [W]': null,
      'CPU [RPM]': null,
      'System 1 [RPM]': null,
      'GPU Temperature [°C]': 'spot',
      'GPU Fan1 [RPM]': 'fan',
      'GPU Fan2 [RPM]': 'fan2',
      'GPU Fan1 [%]': 'duty',
      'GPU Power (Total) [% of TDP]': null,
      'GPU Power Maximum [W]': null,
      'GPU Power [W]': 'power',
      'GPU Clock [MHz]': 'clock',
      'GPU Memory Clock [MHz]': null,
      'GPU Core Load [%]': 'utilisation',
      'Framerate [FPS]': 'throughput',
    });
    // What is not named after the part is its own where nothing else is.
    const few = ['Board Power Draw [W]', 'GPU Chip Power Draw [W]', 'Fan 1 Speed (%) [%]', 'Fan 1 Speed (RPM) [RPM]', 'Fan 2 Speed (RPM) [RPM]', 'GPU Load [%]']; // prettier-ignore
    expect(rolesOf(few)).toEqual(['power', null, 'duty', 'fan', 'fan2', 'utilisation']);
  });

  it('is told in whole machines of other tongues too', () => {
    expect(
      rolesOf(['CPU-Paketleistung [W]', 'GPU-Leistung [W]', 'Gesamte CPU-Nutzung [%]', 'GPU-Auslastung [%]', 'GPU-Takt [MHz]', 'Gehäuselüfter [RPM]', 'GPU-Lüfter 1 [RPM]', 'Zulufttemperatur [°C]', 'gpu_clk']), // prettier-ignore
    ).toEqual(['neighbour', 'power', null, 'utilisation', 'clock', null, 'fan', 'intake', null]);
    expect(rolesOf(['Puissance CPU [W]', 'Puissance GPU [W]', 'Charge GPU [%]', 'Charge CPU [%]', 'Point chaud GPU [°C]'])).toEqual([
      'neighbour',
      'power',
      'utilisation',
      null,
      'spot', // prettier-ignore
    ]);
    expect(rolesOf(['Potencia CPU [W]', 'Potencia GPU [W]', 'Uso de GPU [%]', 'Uso de CPU [%]'])).toEqual([
      'neighbour',
      'power',
      'utilisation',
      null, // prettier-ignore
    ]);
  });

  it('is a core of the processor where another column is the GPU’s', () => {
    const classesOf = (names: string[]) => {
      const seen = names.map(() => ({ numbers: 100, texts: 0, least: 21, most: 68, step: 0.1, codes: [], unread: 0 }));
      return guessColumns({ names, units: names.map(() => ''), samples: names.map(() => []), seen }, [], [], 'card').columns.map(
        ({ componentClass }) => componentClass,
      );
    };
    expect(classesOf(['Core Temperatures (avg) [°C]', 'CPU Package [°C]', 'GPU Temperature [°C]'])).toEqual([
      'processor',
      'processor',
      'graphics core',
    ]);
    expect(classesOf(['Core [°C]', 'Memory [°C]'])).toEqual(['graphics core', 'memory']);
  });

  it.each([
    ['the rate that is written or read', ['Read Rate [MB/s]', 'Write Rate [MB/s]'], [4, 6800], 'throughput'],
    ['the time busy with either', ['Read Activity [%]', 'Total Activity [%]'], [1, 98], 'utilisation'],
  ])('is %s, whichever the load moves', (_, names, most, role) => {
    const of = (order: number[]) => {
      const seen = order.map((i) => ({ numbers: 100, texts: 0, least: 0, most: most[i]!, step: 0.1, codes: [], unread: 0 }));
      return guessColumns({ names, units: ['', ''], samples: [[], []], seen }, [], [], 'drive').columns;
    };
    expect(of([0, 1])).toMatchObject([{ column: 1, role }]);
    expect(of([1, 0])).toMatchObject([{ column: 0, role }]);
  });
});
