import type { BowContext } from '../../core/bow/residuals';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { HAIR_WIDTH_MM, HAND_COVERS } from './bowShape';
import { cutStrip, STATIONS, stationShare } from './bowStrip';
import { StripSums } from './stripSums';

/** How far the hair's ends may be moved, px at 960 across. */
const SIDEWAYS = 10;

/** Moves both ends of a found bow sideways (px of the picture) onto the middle of the hair. */
export function straightenHair<H extends { readonly frog: Vec2; readonly tip: Vec2 }>(frame: Frame, pose: Pose, context: BowContext, h: H): H {
  const unit = Math.max(frame.width, frame.height) / 960;
  const points = Array.from({ length: STATIONS }, (_, k): Vec2 => [h.frog[0] + (h.tip[0] - h.frog[0]) * stationShare(k), h.frog[1] + (h.tip[1] - h.frog[1]) * stationShare(k)]);
  const pitch = 0.5 * unit;
  const reach = Math.round((SIDEWAYS * unit) / pitch);
  const half = Math.max(0.8 * unit, ((HAIR_WIDTH_MM / 2) * context.camera.focal) / pose.translation[2]) / pitch;
  // A band is held against as much to either side of it.
  const strip = cutStrip(frame, points, (reach + 3 * half + 2) * pitch, pitch);
  const sums = new StripSums(strip);
  const bands = points.map((_, k) => Float64Array.from({ length: 2 * reach + 1 }, (__, j) => (stationShare(k) > HAND_COVERS ? sums.band(k, j - reach, half) : 0)));
  let best = { frog: 0, tip: 0, value: Number.NEGATIVE_INFINITY };
  for (let frog = -reach; frog <= reach; frog++) {
    for (let tip = -reach; tip <= reach; tip++) {
      let value = 0;
      for (let k = 0; k < STATIONS; k++) value += bands[k]![Math.round(frog + (tip - frog) * stationShare(k)) + reach]!;
      if (value > best.value) best = { frog, tip, value };
    }
  }
  const moved = (p: Vec2, o: number): Vec2 => [p[0] + strip.normal[0] * o * strip.pitch, p[1] + strip.normal[1] * o * strip.pitch];
  return { ...h, frog: moved(h.frog, best.frog), tip: moved(h.tip, best.tip) };
}
