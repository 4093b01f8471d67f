/** A row of words of which one is chosen. */
export function Tabs<T extends string>({
  names,
  chosen,
  label,
  onChoose,
  className,
}: {
  names: readonly (readonly [id: T, name: string])[];
  chosen: T;
  label: string;
  onChoose: (id: T) => void;
  className?: string;
}) {
  return (
    <div className={`flex flex-wrap text-label ${className ?? 'gap-x-4'}`} role="tablist" aria-label={label}>
      {names.map(([id, name]) => (
        <button
          key={id}
          type="button"
          role="tab"
          aria-selected={chosen === id}
          onClick={() => onChoose(id)}
          className={`border-b-2 pb-0.5 ${chosen === id ? 'border-sea font-semibold' : 'border-transparent text-soft'}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
