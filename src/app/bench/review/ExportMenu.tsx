import { Check } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';

export interface ExportItem {
  readonly label: string;
  readonly action: () => void;
}

const item = 'cursor-pointer rounded-card px-3 py-1 outline-none data-[highlighted]:bg-fog-deep';

/** What can be saved from a take, as files: pictures with the drawing in them, then numbers. */
export function ExportMenu({
  pictures,
  files,
  covered,
  onCover,
}: {
  pictures: readonly ExportItem[];
  files: readonly ExportItem[];
  covered: boolean;
  onCover: (covered: boolean) => void;
}) {
  const list = (items: readonly ExportItem[]) =>
    items.map(({ label, action }) => (
      <DropdownMenu.Item key={label} onSelect={action} className={item}>
        {label}
      </DropdownMenu.Item>
    ));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="inline-flex h-6 items-center text-label font-semibold text-sea underline">Save as a file</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="rounded-card border border-rule bg-sheet p-1">
          {list(pictures)}
          <DropdownMenu.CheckboxItem
            checked={covered}
            onCheckedChange={onCover}
            onSelect={(event) => event.preventDefault()}
            className={`${item} flex items-center gap-2 text-soft`}
          >
            <span className="inline-flex h-4 w-4 items-center justify-center rounded-[3px] border border-soft">
              <DropdownMenu.ItemIndicator>
                <Check size={14} />
              </DropdownMenu.ItemIndicator>
            </span>
            the face covered
          </DropdownMenu.CheckboxItem>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          {list(files)}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
