import type { BowContext } from '../../core/bow/residuals';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { HAIR_MM, HAND, STICK, STICK_MM, stickHeight } from './bowShape';
import { cutStrip, STATIONS, stationShare } from './bowStrip';
import { StripSums } from './stripSums';

/** Sideways steps of the hair's ends tried first and last (samples), and shares of the stick's height that may show beside the hair. */
const STEPS = [4, 1] as const;
const LEANS = Array.from({ length: 21 }, (_, i) => 0.1 * i - 1).filter((lean) => Math.abs(lean) > 0.15);
/** How far the hair's ends may be moved, px at 960 across. */
const SIDEWAYS = 10;
/** Where a found bow is laid straight, a side counts for more than a clear ridge, up to this. */
const MOST_CLEAR = 3;

/**
 * Moves both ends of a found bow sideways onto the middle of the hair: a pale band with the dark stick beside it, which
 * tells where the hair is where it lies over something pale.
 */
export function straightenHair<H extends { readonly frog: Vec2; readonly tip: Vec2 }>(frame: Frame, pose: Pose, context: BowContext, h: H): H {
  const unit = Math.max(frame.width, frame.height) / 960;
  const points = Array.from({ length: STATIONS }, (_, k): Vec2 => [h.frog[0] + (h.tip[0] - h.frog[0]) * stationShare(k), h.frog[1] + (h.tip[1] - h.frog[1]) * stationShare(k)]);
  const scale = context.camera.focal / pose.translation[2];
  const pitch = 0.5 * unit;
  const reach = Math.round((SIDEWAYS * unit) / pitch);
  const wide = reach + Math.ceil((Math.max(...STICK) * scale) / pitch);
  const halfOf = (mm: number) => Math.max(0.8 * unit, (mm / 2) * scale) / pitch;
  // A band is held against as much to either side of it.
  const strip = cutStrip(frame, points, (wide + 3 * halfOf(STICK_MM) + 2) * pitch, pitch);
  const sums = new StripSums(strip);
  /** Bands so wide at offsets up to `far` of every cross section; under the hand none. */
  const bands = (far: number, half: number, sign: number) =>
    points.map((_, k) => Float64Array.from({ length: 2 * far + 1 }, (__, j) => (stationShare(k) > HAND ? sign * sums.band(k, j - far, half, MOST_CLEAR) : 0)));
  const hair = bands(reach, halfOf(HAIR_MM), 1);
  const stick = bands(wide, halfOf(STICK_MM), -1);
  const beside = LEANS.map((lean) => points.map((_, k) => Math.round((lean * stickHeight(stationShare(k)) * scale) / pitch)));
  let best = { frog: 0, tip: 0, lean: 0, value: Number.NEGATIVE_INFINITY };
  const attempt = (frog: number, tip: number, lean: number) => {
    let value = 0;
    for (let k = 0; k < STATIONS; k++) {
      const at = Math.round(frog + (tip - frog) * stationShare(k));
      value += hair[k]![at + reach]! + stick[k]![at + beside[lean]![k]! + wide]!;
    }
    if (value > best.value) best = { frog, tip, lean, value };
  };
  const [coarse, fine] = STEPS;
  for (let lean = 0; lean < LEANS.length; lean++)
    for (let frog = -reach; frog <= reach; frog += coarse) for (let tip = -reach; tip <= reach; tip += coarse) attempt(frog, tip, lean);
  const near = best;
  const within = (o: number, limit: number) => Math.max(-limit, Math.min(limit, o));
  for (let lean = Math.max(0, near.lean - 1); lean <= Math.min(LEANS.length - 1, near.lean + 1); lean++)
    for (let frog = near.frog - coarse; frog <= near.frog + coarse; frog += fine)
      for (let tip = near.tip - coarse; tip <= near.tip + coarse; tip += fine) attempt(within(frog, reach), within(tip, reach), lean);
  const moved = (p: Vec2, o: number): Vec2 => [p[0] + strip.normal[0] * o * strip.pitch, p[1] + strip.normal[1] * o * strip.pitch];
  return { ...h, frog: moved(h.frog, best.frog), tip: moved(h.tip, best.tip) };
}
