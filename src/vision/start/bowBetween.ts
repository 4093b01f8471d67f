import type { BowContext } from '../../core/bow/residuals';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { FusedPoint } from '../../core/start/fuse';
import { type BowHypothesis, searchBow, searchWholeBow } from '../bow/bowSearch';
import { straightenHair } from '../bow/straightenHair';
import type { Frame } from '../film/frame';

/** Ends the network is sure of. */
const SURE = 0.35;
/** Lines this near each other (radians; px at 960 across at the ends) are one bow. */
const SAME_TURN = 0.07;
const SAME_END = 40;
/** Shares of the expected length between which the network's frog is believed: it lies under the hand more often than not. */
const LENGTH = [0.94, 1.06] as const;
const ABOUT = [0.6, 1.4] as const;
/** Less sure than this the network's frog was off by 10 to 60 per cent of the bow in seven of nine pictures, the one reckoned from the tip by up to 10 in all nine (ours, 31 films of two renderers). */
const FAINT = 0.62;

/** Ends of the hair, and whether the frog's was only reckoned from the tip and the bow's length. */
export interface BowFound {
  readonly frog: Vec2;
  readonly tip: Vec2;
  readonly frogReckoned: boolean;
  /** 0..1. */
  readonly sure: number;
}

/**
 * The bow of a frame in which the instrument is placed, from the network's two ends and from hair and stick in the
 * picture; undefined unless the two witnesses agree.
 */
export function bowBetween(frame: Frame, pose: Pose, context: BowContext, frog: FusedPoint, tip: FusedPoint): BowFound | undefined {
  const named = { frog: frog.point, tip: tip.point };
  if (tip.confidence >= SURE) {
    const from = searchBow(frame, pose, context, { which: 'tip', point: tip.point }, 3);
    const best = from.filter((h) => turnBetween(h, named) < SAME_TURN).sort((a, b) => b.score - a.score)[0];
    if (best) {
      const straight = straightenHair(frame, pose, context, best);
      const share = length(named) / length(best);
      const like = ([least, most]: readonly [number, number]) => share > least && share < most;
      const frogSeen = frog.confidence >= SURE && like(LENGTH);
      // Where the two do not quite agree, the network's frog is still the better guess.
      const place = frogSeen || (frog.confidence >= FAINT && like(ABOUT)) ? along(straight, frog.point) : straight.frog;
      const sure = Math.min(1, best.score) * Math.min(tip.confidence, Math.max(0.4, frog.confidence));
      return { tip: straight.tip, frog: place, frogReckoned: !frogSeen, sure };
    }
  }
  return undefined;
}

/** The bow looked for all over a frame, where the network saw its tip too faintly; slow, and its frog only reckoned. */
export function bowAnywhere(frame: Frame, pose: Pose, context: BowContext, frog: FusedPoint, tip: FusedPoint): BowFound | undefined {
  const unit = Math.max(frame.width, frame.height) / 960;
  const named = { frog: frog.point, tip: tip.point };
  const whole = searchWholeBow(frame, pose, context);
  if (whole && turnBetween(whole, named) < SAME_TURN && distance(whole.tip, tip.point) < SAME_END * unit)
    return { frog: whole.frog, tip: whole.tip, frogReckoned: true, sure: 0.3 };
  return undefined;
}

const distance = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
const length = (h: { readonly frog: Vec2; readonly tip: Vec2 }): number => distance(h.frog, h.tip);

function turnBetween(a: Pick<BowHypothesis, 'frog' | 'tip'>, b: Pick<BowHypothesis, 'frog' | 'tip'>): number {
  const d = Math.atan2(a.tip[1] - a.frog[1], a.tip[0] - a.frog[0]) - Math.atan2(b.tip[1] - b.frog[1], b.tip[0] - b.frog[0]);
  return Math.abs(d - 2 * Math.PI * Math.round(d / (2 * Math.PI)));
}

/** The place on the line of a bow nearest to a point. */
function along({ frog, tip }: { readonly frog: Vec2; readonly tip: Vec2 }, p: Vec2): Vec2 {
  const d: Vec2 = [tip[0] - frog[0], tip[1] - frog[1]];
  const k = ((p[0] - frog[0]) * d[0] + (p[1] - frog[1]) * d[1]) / (d[0] ** 2 + d[1] ** 2);
  return [frog[0] + k * d[0], frog[1] + k * d[1]];
}
