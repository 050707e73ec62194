// @vitest-environment happy-dom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { FakeServer, renderAt } from '../tests/renderAt.tsx';
import { phoneAddresses } from '../ui/PhoneCode.tsx';
import { OnAPhone } from './OnAPhone.tsx';
import { textOf } from '../tests/textOf.ts';

const here = { protocol: 'http:', hostname: '127.0.0.1', port: '4500' };

describe('a page on a phone', () => {
  it('is reached by every address of the machine from the machine itself, else by the one that is used', () => {
    expect(phoneAddresses(here, '/studies/s1/run?at=1', ['192.0.2.17', '198.51.100.4'])).toEqual([
      'http://192.0.2.17:4500/studies/s1/run?at=1',
      'http://198.51.100.4:4500/studies/s1/run?at=1',
    ]);
    expect(phoneAddresses({ protocol: 'https:', hostname: 'bench.example', port: '' }, '/x', ['192.0.2.17'])).toEqual([
      'https://bench.example/x',
    ]);
    expect(phoneAddresses(here, '/x', [])).toEqual([]);
  });
  it('is shown as a code, with the address in letters', async () => {
    renderAt('/studies/s1/run', <OnAPhone />, new FakeServer().on('GET /network-hosts', { hosts: ['192.0.2.17'] }));
    await userEvent.click(await screen.findByRole('button', { name: 'On a phone' }));
    const address = await screen.findByText(/^http.*192\.0\.2\.17/, { selector: 'span' });
    expect(screen.getByTitle(`Code of ${address.textContent}`)).toBeTruthy();
    expect(textOf(address)).toContain('/studies/s1/run');
  });
  it('says how it would be reached where the bench listens to its own machine', async () => {
    renderAt('/studies/s1/run', <OnAPhone />, new FakeServer().on('GET /network-hosts', { hosts: [] }));
    await userEvent.click(await screen.findByRole('button', { name: 'On a phone' }));
    expect(await screen.findByText(/A phone does not reach this bench/)).toBeTruthy();
  });
});
