import type { ButtonHTMLAttributes } from 'react';

/** A button of the workroom, with its key in a cap when it has one. */
export function Button({
  keyCap,
  kind = 'plain',
  children,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { keyCap?: string; kind?: 'plain' | 'main' | 'quiet' }) {
  const look = {
    plain: 'bg-sheet border border-soft text-ink hover:bg-white',
    main: 'bg-sea border border-sea text-white hover:brightness-110',
    quiet: 'border border-transparent text-ink hover:bg-fog-deep',
  }[kind];
  return (
    <button
      type="button"
      className={`inline-flex h-8 items-center gap-2 rounded-card px-2 text-body font-semibold whitespace-nowrap disabled:opacity-50 disabled:cursor-default ${look} ${className}`}
      {...rest}
    >
      {keyCap && <KeyCap label={keyCap} inverse={kind === 'main'} />}
      <span className={keyCap ? 'pr-1' : 'px-1'}>{children}</span>
    </button>
  );
}

export function KeyCap({ label, inverse = false }: { label: string; inverse?: boolean }) {
  return (
    <kbd
      className={`inline-flex h-5 min-w-5 items-center justify-center rounded-[4px] border px-1 font-sans text-label font-semibold ${inverse ? 'border-white/60 text-white' : 'border-rule bg-white text-ink'}`}
    >
      {label}
    </kbd>
  );
}
