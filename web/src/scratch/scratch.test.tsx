// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import type { StudyBody } from '@red-ember/contract';
import { degreesChosen } from '../data/settings.ts';
import { store } from '../data/store.ts';
import * as made from '@red-ember/testing';
import { FakeServer, renderAt } from '../tests/renderAt.tsx';
import { ScratchPage } from './ScratchPage.tsx';
import { BLANK_NOTE, noteInWords, readNote } from './typedNote.ts';

const user = userEvent.setup();
beforeEach(() => {
  localStorage.clear();
  store.dispatch(degreesChosen('C'));
});
const type = async (label: string, text: string) => {
  await user.clear(screen.getByLabelText(label));
  if (text) await user.type(screen.getByLabelText(label), text);
};
/** An answer by its group and label, as it is read. */
const answer = (group: string, label: RegExp) =>
  within(screen.getByRole('region', { name: group }))
    .getByText(label)
    .closest('div')!
    .querySelector('dd')!.textContent;

describe('the scratch sheet', () => {
  it('answers as it is typed, says how, and carries a doubt that was typed', async () => {
    renderAt('/', <ScratchPage />);
    expect(screen.getByText(/Type what stands on the note/)).toBeTruthy();
    await type('Room', '22');
    await type('Intake air', '29');
    await type('Exhaust air', '41');
    await type('Power', '210');
    await type('Name of spot 1', 'Chip');
    await type('Temperature of Chip', '83');
    await type('Limit of Chip', '95');
    expect(answer('The air', /breathed again/)).toBe('37 %');
    expect(answer('Chip', /^over room/)).toBe('61.0 K');
    expect(answer('Chip', /^to intake/)).toBe('0.257 K/W');
    expect(answer('Chip', /in air of 34/)).toBe('95.0 °C');
    expect(answer('Chip', /^left to 95/)).toBe('12.0 K');
    expect(within(screen.getByRole('region', { name: 'Chip' })).getByText(/210.0 W × 73.0 K \/ 61.0 K/)).toBeTruthy();
    await type('Temperature of Chip', '83 ± 1');
    expect(answer('Chip', /^over room/)).toBe('61.0 ± 1.2 K');
    expect(answer('Chip', /^to intake/)).toBe('0.257 ± 0.005 K/W');
  });

  it('names a field that it cannot read, and answers the rest', async () => {
    renderAt('/', <ScratchPage />);
    await type('Room', 'cold');
    await type('Temperature of spot 1', '181F');
    await type('Limit of spot 1', '95');
    expect(screen.getByText('“cold” is not a temperature.')).toBeTruthy();
    expect(screen.getByLabelText('Room').getAttribute('aria-invalid')).toBe('true');
    expect(answer('Spot 1', /^left to 95/)).toBe('12.2 K');
  });

  it('is kept over a reload, wiped, and brought back', async () => {
    renderAt('/', <ScratchPage />);
    await type('Levels', '36 38');
    expect(answer('Noise', /together/)).toBe('40.1 dB(A)');
    renderAt('/', <ScratchPage />);
    expect(screen.getByLabelText('Levels')).toHaveProperty('value', '36 38');
    await user.click(screen.getByRole('button', { name: 'Wipe it' }));
    expect(screen.getByLabelText('Levels')).toHaveProperty('value', '');
    await user.click(screen.getByRole('button', { name: 'Bring it back' }));
    expect(answer('Noise', /together/)).toBe('40.1 dB(A)');
  });

  it('reads and shows °F where that was chosen, a rise never like a temperature', async () => {
    store.dispatch(degreesChosen('F'));
    renderAt('/', <ScratchPage />);
    await type('Room', '72');
    await type('Temperature of spot 1', '182');
    expect(answer('Spot 1', /^over room/)).toBe('110.0 °F');
    expect(answer('Spot 1', /in air of 93/)).toBe('203.2 °F');
  });

  it('becomes a study with its spots, limits and the note, and says nothing that was not on it', async () => {
    const server = renderAt('/', <ScratchPage />, new FakeServer().on('POST /studies', made.study()));
    expect(screen.getByRole('button', { name: 'Keep as a study' })).toHaveProperty('disabled', true);
    await type('Room', '22');
    await type('Name of spot 1', 'Chip');
    await type('Temperature of Chip', '83');
    await type('Limit of Chip', '95');
    await user.click(screen.getByRole('button', { name: 'Keep as a study' }));
    await waitFor(() => expect(server.last('POST', '/studies')).toBeTruthy());
    const body = server.last('POST', '/studies')!.body as StudyBody;
    expect(body.spots).toMatchObject([{ name: 'Chip', limitC: 95, limitSource: 'off a note' }]);
    expect(body.question).toBe('To be asked. On the note: room 22, Chip 83.');
    expect(body.enclosure.airC).toBe(34);
  });

  it('survives what a browser may have kept of another version', () => {
    for (const kept of ['null', '7', '{"spots":{}}', '{"room":5,"joint":null}', 'x']) {
      localStorage.setItem('red-ember scratch sheet', kept);
      renderAt('/', <ScratchPage />);
      expect(screen.getByLabelText('Room')).toHaveProperty('value', '');
    }
  });
});

describe('a typed note', () => {
  it('takes the power for the heat through a joint that says none of its own, and a pad’s gap only with its pad', () => {
    const joint = { kind: 'pad' as const, thick: '1,5', gap: '1.2', conductivity: '6', area: '100', heat: '' };
    expect(readNote({ ...BLANK_NOTE, power: '10', joint }, 'C').note.joint).toEqual({ thickMm: 1.5, gapMm: 1.2, conductivityWPerMK: 6, areaMm2: 100, heatW: 10 }); // prettier-ignore
    expect(readNote({ ...BLANK_NOTE, joint }, 'C').note.joint).toBeNull();
    expect(readNote({ ...BLANK_NOTE, power: '10', joint: { ...joint, gap: '' } }, 'C').note.joint).toBeNull();
    expect(readNote({ ...BLANK_NOTE, power: '10', joint: { ...joint, kind: 'paste', gap: '' } }, 'C').note.joint!.gapMm).toBeNull();
  });
  it('is put in words as it was typed', () => {
    expect(noteInWords({ ...BLANK_NOTE, room: ' 22 ', spots: [{ name: '', temperature: '83 ± 1', limit: '95' }] })).toBe(
      'room 22, spot 1 83 ± 1',
    );
  });
});
