import { useLayoutEffect, useRef } from 'react';
import { flushSync } from 'react-dom';

/** Keys of a screen by `KeyboardEvent.key` (letters in lower case, `Shift+` before where meant). Off in text fields and dialogs. */
export function useKeys(keys: Record<string, ((event: KeyboardEvent) => void) | undefined>): void {
  const current = useRef(keys);
  current.current = keys;
  // From the moment the screen is drawn: on a busy machine other effects come a while later, and a key in between would be lost.
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      // A slider or a box to tick keeps arrows and space; letters are nothing to it.
      const ticked = target?.closest('input[type="range"], input[type="checkbox"]');
      if (ticked ? event.key.length > 1 || event.key === ' ' : target?.closest('input, textarea, select, [contenteditable], [role="dialog"]')) return;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const name = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const action = current.current[event.shiftKey && event.key.length > 1 ? `Shift+${name}` : name] ?? (event.shiftKey ? undefined : current.current[name]);
      if (!action) return;
      // A focused button keeps its own space and enter.
      if ((event.key === ' ' || event.key === 'Enter') && target?.closest('button, a, [role="button"]')) return;
      event.preventDefault();
      // Drawn at once, so that the next key, however fast, meets the new state.
      flushSync(() => action(event));
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
