import { useEffect, useRef, useState } from 'react';
import type { Marks } from '../../../core/formats/marks';
import type { useWires } from './useWires';

type Offers = Readonly<Record<string, readonly [number, number]>>;

const NONE: Offers = {};
/** The search waits until the hand rests (milliseconds). */
const PAUSE = 350;

/** Points offered in the frame at `t` once its marks place the instrument; looked for anew after each change. */
export function useOffers(solved: ReturnType<typeof useWires>, marks: Marks, t: number, picture: ImageBitmap | undefined): Offers {
  const [offers, setOffers] = useState<{ readonly marks: Marks; readonly t: number; readonly points: Offers }>();
  const placed = solved.wires.some((w) => Math.abs(w.t - t) < 1e-4);
  const suggest = useRef(solved.suggest);
  suggest.current = solved.suggest;
  useEffect(() => {
    if (!placed || !picture) return;
    let stale = false;
    const wait = setTimeout(() => {
      suggest.current(t, picture).then(
        (s) => !stale && setOffers({ marks, t, points: s.points }),
        // Marks that do not fit are told by the wires; there is then nothing to offer.
        () => !stale && setOffers(undefined),
      );
    }, PAUSE);
    return () => {
      stale = true;
      clearTimeout(wait);
    };
  }, [placed, marks, t, picture]);
  return offers && offers.marks === marks && offers.t === t ? offers.points : NONE;
}
