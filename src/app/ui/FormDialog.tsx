import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** A small form over the page: words on the left, fields on the right, what can be done at the end. */
export function FormDialog({
  title,
  about,
  onSubmit,
  onClose,
  children,
  actions,
}: {
  title: string;
  about?: string;
  onSubmit: () => void;
  onClose: () => void;
  children: ReactNode;
  actions: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/40" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 max-h-[94vh] w-[460px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-card border border-rule bg-sheet p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-name">{title}</Dialog.Title>
          {about && <p className="mt-1 text-label text-soft">{about}</p>}
          <form
            className="mt-4 grid grid-cols-[110px_1fr] items-center gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              onSubmit();
            }}
          >
            {children}
            <div className="col-span-2 mt-2 flex justify-end gap-2">{actions}</div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
