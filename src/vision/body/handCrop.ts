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
const CUTS: readonly Cut[] = [PLAIN, { ...PLAIN, share: 0.72 }, { ...PLAIN, mirror: true }, { ...PLAIN, turn: Math.PI / 5 }, { ...PLAIN, turn: -Math.PI / 5 }];
/** Cuts tried in a picture before the hand is given up there (each costs as much as the whole body). */
const MOST_TRIES = 3;
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

/** Looks for the bow hand about the frog, first in the way that showed one last. */
export class HandFinder {
  private readonly canvas = new OffscreenCanvas(INPUT, INPUT);
  private readonly context = this.canvas.getContext('2d', { willReadFrequently: true })!;
  private order = [...CUTS];

  /** The hand's points in px of the whole picture; undefined where no hand shows that could hold the bow. */
  find(picture: CanvasImageSource, place: HandPlace, network: (cut: OffscreenCanvas) => Vec2[] | undefined): Vec2[] | undefined {
    for (const cut of this.order.slice(0, MOST_TRIES)) {
      const points = this.findIn(picture, place, cut, network);
      if (!points || !holdsBow(points, place)) continue;
      this.order = [cut, ...this.order.filter((c) => c !== cut)];
      return points;
    }
    // The ways that failed go to the end: the next picture tries others.
    this.order = [...this.order.slice(MOST_TRIES), ...this.order.slice(0, MOST_TRIES)];
    return undefined;
  }

  private findIn(picture: CanvasImageSource, place: HandPlace, { share, turn, mirror }: Cut, network: (cut: OffscreenCanvas) => Vec2[] | undefined): Vec2[] | undefined {
    const { canvas, context } = this;
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
    return network(canvas)?.map(([x, y]): Vec2 => {
      const p = back.transformPoint({ x: x * INPUT, y: y * INPUT });
      return [p.x, p.y];
    });
  }
}
