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
});
