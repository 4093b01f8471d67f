import type { Vec2 } from '../../core/geometry/vec3';
import type { HandPlace } from './handPlace';

/** A way to cut the hand out: the square's share of the full one, its turn (radians), and whether it is mirrored. */
interface Cut {
  readonly share: number;
  readonly turn: number;
  readonly mirror: boolean;
}

const INPUT = 256;
const PLAIN: Cut = { share: 1, turn: 0, mirror: false };
/** Tried in turn where the plain cut shows no hand that could hold the bow. */
const MORE: readonly Cut[] = [{ ...PLAIN, share: 0.72 }, { ...PLAIN, mirror: true }, { ...PLAIN, turn: Math.PI / 5 }, { ...PLAIN, turn: -Math.PI / 5 }];
/** Index and little knuckle lie along the stick at least so much, as a share of their distance: networks swap thumb and little finger (arm and hand recipe). */
const ALONG_STICK = 0.3;
/** Fingertips lie this near the frog, as a share of the square's side (ours). */
const TIPS_NEAR = 0.33;

/** Whether points found are a hand that can hold the bow there. */
export function holdsBow(points: readonly Vec2[], place: HandPlace): boolean {
  const [index, little] = [points[5]!, points[17]!];
  const across: Vec2 = [index[0] - little[0], index[1] - little[1]];
  if (across[0] * place.bow[0] + across[1] * place.bow[1] < ALONG_STICK * Math.hypot(...across)) return false;
  const tips = [8, 12, 16].map((i) => points[i]!);
  const middle: Vec2 = [tips.reduce((s, p) => s + p[0], 0) / 3, tips.reduce((s, p) => s + p[1], 0) / 3];
  return Math.hypot(middle[0] - place.frog[0], middle[1] - place.frog[1]) < TIPS_NEAR * place.side;
}

/** Looks for the bow hand about the frog, in several cuts until one shows a hand that holds the bow; px of the whole picture. */
export function findBowHand(picture: CanvasImageSource, place: HandPlace, find: (cut: OffscreenCanvas) => Vec2[] | undefined): Vec2[] | undefined {
  const canvas = new OffscreenCanvas(INPUT, INPUT);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  for (const { share, turn, mirror } of [PLAIN, ...MORE]) {
    const scale = INPUT / (place.side * share);
    // Picture to cut: about the hand's middle, turned, mirrored, scaled.
    const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
    const m = mirror ? -1 : 1;
    const e = INPUT / 2 - m * (c * place.centre[0] - s * place.centre[1]);
    const f = INPUT / 2 - (s * place.centre[0] + c * place.centre[1]);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = '#808080';
    context.fillRect(0, 0, INPUT, INPUT);
    context.setTransform(m * c, s, -m * s, c, e, f);
    context.drawImage(picture, 0, 0);
    const back = context.getTransform().inverse();
    const points = find(canvas)?.map(([x, y]): Vec2 => {
      const p = back.transformPoint({ x: x * INPUT, y: y * INPUT });
      return [p.x, p.y];
    });
    if (points && holdsBow(points, place)) return points;
  }
  return undefined;
}
