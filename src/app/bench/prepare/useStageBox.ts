import { type RefObject, useEffect, useState } from 'react';

/** Size of the film on the page: as wide as its column, and no higher than leaves room for what is told of it. */
export function useStageBox(stage: RefObject<HTMLElement | null>, film: { readonly width: number; readonly height: number }): { width: number; height: number } {
  const [box, setBox] = useState({ width: 912, height: 513 });
  const ratio = film.width / film.height;
  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    const resize = () => {
      const width = element.clientWidth;
      // An upright film has what is told of it at its side, and may be as high as the page.
      const most = ratio < 1 ? Math.max(420, window.innerHeight - 130) : Math.min(513 * (window.innerWidth >= 1560 ? 1.32 : 1), window.innerHeight - 260);
      setBox(width / ratio <= most ? { width, height: width / ratio } : { width: most * ratio, height: most });
    };
    resize();
    const watch = new ResizeObserver(resize);
    watch.observe(element);
    window.addEventListener('resize', resize);
    return () => {
      watch.disconnect();
      window.removeEventListener('resize', resize);
    };
  }, [stage, ratio]);
  return box;
}
