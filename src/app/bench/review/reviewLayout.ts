import { useEffect, useState } from 'react';

/** Pixels: width and height of film and plan, width of the third column and of all. */
export interface ReviewLayout {
  readonly film: readonly [number, number];
  readonly plan: readonly [number, number];
  readonly third: number;
  readonly total: number;
}

/** Sizes of the visual language for 1024, 1280 and 1600 wide. */
function layoutFor(width: number): ReviewLayout {
  if (width >= 1600) return { film: [880, 495], plan: [384, 439], third: 272, total: 1560 };
  if (width >= 1270) return { film: [704, 396], plan: [300, 340], third: 212, total: 1240 };
  return { film: [592, 333], plan: [232, 277], third: 144, total: 992 };
}

/** Sizes for the window as it is now. */
export function useReviewLayout(): ReviewLayout {
  const [layout, setLayout] = useState(() => layoutFor(window.innerWidth));
  useEffect(() => {
    const resize = () => setLayout(layoutFor(window.innerWidth));
    window.addEventListener('resize', resize);
    return () => window.removeEventListener('resize', resize);
  }, []);
  return layout;
}
