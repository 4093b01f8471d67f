import { type RefObject, useEffect, useRef, useState } from 'react';

/** The width an element has on the page, px; `first` until it is known. */
export function useWidth<E extends Element>(first: number): [RefObject<E | null>, number] {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(Math.round(element.clientWidth)));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, width];
}
