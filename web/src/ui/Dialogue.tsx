import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';

/** A sheet laid over the page; Esc and the cross close it. */
export function Dialogue({
  open,
  onClose,
  title,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    // It has the size of the window itself: a box of no size counts as hidden, for a script that waits until it is gone too.
    <Dialog open={open} onClose={onClose} className="fixed inset-0 z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/30" />
      <div className="fixed inset-0 overflow-y-auto p-4">
        <div className="flex min-h-full items-center justify-center">
          <DialogPanel className={`w-full ${wide ? 'max-w-3xl' : 'max-w-xl'} border border-ink bg-paper p-6 shadow-xl`}>
            <div className="mb-4 flex items-start justify-between gap-4">
              <DialogTitle className="text-[1.25rem] leading-snug">{title}</DialogTitle>
              <button type="button" onClick={onClose} className="-m-1 p-1 text-soft hover:text-ink" aria-label="Close">
                <X size={18} aria-hidden />
              </button>
            </div>
            {children}
          </DialogPanel>
        </div>
      </div>
    </Dialog>
  );
}
