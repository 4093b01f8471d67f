import { type RefObject, useEffect, useRef, useState } from 'react';

/** Whether an element has come near the view; true from then on. */
export function useNearView<E extends Element>(margin = '400px'): [RefObject<E | null>, boolean] {
  const ref = useRef<E>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    const element = ref.current;
    if (!element || near) return;
    const observer = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setNear(true), { rootMargin: margin });
    observer.observe(element);
    return () => observer.disconnect();
  }, [near, margin]);
  return [ref, near];
}
