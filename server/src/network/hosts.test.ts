import { describe, expect, it } from 'vitest';
import { hostsOf } from './hosts.ts';

const address = (family: 'IPv4' | 'IPv6', at: string, internal = false) =>
  ({ address: at, family, internal, netmask: '', mac: '', cidr: null, ...(family === 'IPv6' ? { scopeid: 0 } : {}) }) as never;
const interfaces = {
  lo: [address('IPv4', '127.0.0.1', true), address('IPv6', '::1', true)],
  one: [address('IPv4', '192.0.2.17'), address('IPv6', 'fe80::1')],
  two: [address('IPv4', '198.51.100.4'), address('IPv4', '192.0.2.17')],
};

describe('by what a phone reaches the bench', () => {
  it.each(['127.0.0.1', 'localhost', '::1'])('by nothing where it listens to its own machine: %s', (host) => {
    expect(hostsOf(host, interfaces)).toEqual([]);
  });
  it.each(['0.0.0.0', '::'])('by every address in a network where it listens on all: %s', (host) => {
    expect(hostsOf(host, interfaces)).toEqual(['192.0.2.17', '198.51.100.4']);
    expect(hostsOf(host, { lo: interfaces.lo })).toEqual([]);
  });
  it('by the one it was told, as an address has it', () => {
    expect(hostsOf('192.0.2.17', interfaces)).toEqual(['192.0.2.17']);
    expect(hostsOf('2001:db8::7', interfaces)).toEqual(['[2001:db8::7]']);
  });
});
