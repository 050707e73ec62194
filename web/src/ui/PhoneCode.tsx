import { QRCodeSVG } from 'qrcode.react';
import { useNetworkHostsQuery } from '../data/api.ts';

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/** Addresses by which a phone opens a page of this bench: the one that is used already, else all that the machine has in its networks. */
export function phoneAddresses(here: Pick<Location, 'protocol' | 'hostname' | 'port'>, page: string, hosts: readonly string[]): string[] {
  const at = (host: string) => `${here.protocol}//${host}${here.port ? `:${here.port}` : ''}${page}`;
  return LOOPBACK.includes(here.hostname) ? hosts.map(at) : [at(here.hostname)];
}

/** By what a phone reaches a page of this bench; undefined while it is looked for, empty where none does. */
export function usePhoneAddresses(): ((page: string) => string[]) | undefined {
  const { data, isLoading } = useNetworkHostsQuery();
  return isLoading ? undefined : (page) => phoneAddresses(window.location, page, data?.hosts ?? []);
}

/** An address as a code. Dark on light in either dress: most cameras read no other. */
export function PhoneCode({ address, size }: { address: string; size: number }) {
  return <QRCodeSVG value={address} size={size} marginSize={2} bgColor="#ffffff" fgColor="#000000" title={`Code of ${address}`} />;
}
