import { DropdownMenu } from 'radix-ui';

/** What can be saved from a take, as files. */
export function ExportMenu({ items }: { items: readonly (readonly [string, () => void])[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="inline-flex h-6 items-center text-label font-semibold text-sea underline">Save as a file</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="rounded-card border border-rule bg-sheet p-1">
          {items.map(([label, action]) => (
            <DropdownMenu.Item key={label} onSelect={action} className="cursor-pointer rounded-card px-3 py-1 outline-none data-[highlighted]:bg-fog-deep">
              {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
