import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { KeyCap } from './Button';
import { useKeys } from './useKeys';

/** The list of keys of a screen, on `?`. */
export function KeysDialog({ keys }: { keys: readonly (readonly [caps: string, does: string])[] }) {
  const [open, setOpen] = useState(false);
  useKeys({ '?': () => setOpen(true) });
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="inline-flex items-center gap-2 text-label">
        <KeyCap label="?" /> keys
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/40" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[420px] -translate-x-1/2 -translate-y-1/2 rounded-card border border-rule bg-sheet p-5" aria-describedby={undefined}>
          <Dialog.Title className="mb-3 text-name">Keys</Dialog.Title>
          <dl className="grid grid-cols-[120px_1fr] gap-y-2">
            {keys.map(([caps, does]) => (
              <div key={does} className="contents">
                <dt className="flex gap-1">
                  {caps.split(' ').map((cap) => (
                    <KeyCap key={cap} label={cap} />
                  ))}
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="mt-4 inline-flex h-8 items-center rounded-card border border-soft bg-sheet px-3 font-semibold">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
