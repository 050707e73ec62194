import { networkInterfaces } from 'node:os';
import { isLoopback } from '../http/security.ts';

/** Listening on these is listening on every address that the machine has. */
const EVERY = new Set(['0.0.0.0', '::', '']);

type Interfaces = ReturnType<typeof networkInterfaces>;

/**
 * By which addresses other machines reach a server that listens on `host`: none where it listens to its own machine alone, the one it
 * was told, or every address of fourth version that the machine has in a network.
 */
export function hostsOf(host: string, interfaces: Interfaces = networkInterfaces()): string[] {
  if (isLoopback(host)) return [];
  if (!EVERY.has(host)) return [host.includes(':') ? `[${host}]` : host];
  const all = Object.values(interfaces).flatMap((addresses) => addresses ?? []);
  return [...new Set(all.filter(({ internal, family }) => !internal && family === 'IPv4').map(({ address }) => address))];
}
