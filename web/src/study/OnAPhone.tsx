import { useState } from 'react';
import { Smartphone } from 'lucide-react';
import { QRCodeSVG } from 'qrcode.react';
import { useLocation } from 'react-router';
import { useNetworkHostsQuery } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { Notice } from '../ui/Notice.tsx';

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/** Addresses by which a phone opens a page of this bench: the one that is used already, else all that the machine has in its networks. */
export function phoneAddresses(here: Pick<Location, 'protocol' | 'hostname' | 'port'>, page: string, hosts: readonly string[]): string[] {
  const at = (host: string) => `${here.protocol}//${host}${here.port ? `:${here.port}` : ''}${page}`;
  return LOOPBACK.includes(here.hostname) ? hosts.map(at) : [at(here.hostname)];
}

/** The page that is looked at, as a code for the phone of whoever stands at the bench. */
export function OnAPhone() {
  const [open, setOpen] = useState(false);
  return (
    // Whoever holds a phone needs no code.
    <span className="max-sm:hidden">
      <Button look="quiet" onClick={() => setOpen(true)}>
        <Smartphone size={16} aria-hidden /> On a phone
      </Button>
      <Dialogue open={open} onClose={() => setOpen(false)} title="This page on a phone">
        {open ? <Codes /> : null}
      </Dialogue>
    </span>
  );
}

function Codes() {
  const { pathname, search } = useLocation();
  const { data, isLoading } = useNetworkHostsQuery();
  if (isLoading) return <p className="text-soft">Looking for the networks of this machine…</p>;
  const addresses = phoneAddresses(window.location, `${pathname}${search}`, data?.hosts ?? []);
  if (addresses.length === 0)
    return (
      <Notice tone="hint">
        A phone does not reach this bench: it listens to its own machine only, or the machine is in no network. Set{' '}
        <code>RED_EMBER_PASSPHRASE</code>, at least 12 characters, and start it with <code>npm start -- --host 0.0.0.0</code>.
      </Notice>
    );
  return (
    <>
      <ul className="flex flex-wrap gap-6">
        {addresses.map((address) => (
          <li key={address} className="w-56">
            {/* Dark on light in either dress: most cameras read no other. */}
            <QRCodeSVG value={address} size={224} marginSize={2} bgColor="#ffffff" fgColor="#000000" title={`Code of ${address}`} />
            <span className="mt-2 block break-all text-[0.87rem]">{address}</span>
          </li>
        ))}
      </ul>
      <p className="mt-4 max-w-(--container-measure) text-soft">
        The phone has to be in the same network, and asks for the passphrase of this bench; any name will do. Nothing on the way is
        encrypted.
      </p>
    </>
  );
}
