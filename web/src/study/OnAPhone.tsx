import { useState } from 'react';
import { Smartphone } from 'lucide-react';
import { useLocation } from 'react-router';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { Notice } from '../ui/Notice.tsx';
import { PhoneCode, usePhoneAddresses } from '../ui/PhoneCode.tsx';

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
  const addressesOf = usePhoneAddresses();
  if (!addressesOf) return <p className="text-soft">Looking for the networks of this machine…</p>;
  const addresses = addressesOf(`${pathname}${search}`);
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
            <PhoneCode address={address} size={224} />
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
