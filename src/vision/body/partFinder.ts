import type { PartSquare } from '../../core/body/partSquare';
import type { Vec2 } from '../../core/geometry/vec3';

/** The square as it stands in the mirrored picture. */
export const mirrorSquare = <P extends PartSquare>(place: P, width: number): P => ({ ...place, centre: [width - place.centre[0], place.centre[1]] });

/** A way to cut a part out: the square's share of the full one, its turn (radians), and whether it is mirrored. */
export interface Cut {
  readonly share: number;
  readonly turn: number;
  readonly mirror: boolean;
}

/** Finds the points of a hand or a face in a small picture, as shares of its width and height. */
export type PartNetwork = (cut: OffscreenCanvas) => Vec2[] | undefined;

export const PLAIN: Cut = { share: 1, turn: 0, mirror: false };

const INPUT = 256;
/** Looks for a hand or a face where it must be, first in the way that showed one last. */
export class PartFinder<P extends PartSquare> {
  private readonly canvas = new OffscreenCanvas(INPUT, INPUT);
  private readonly context = this.canvas.getContext('2d', { willReadFrequently: true })!;
  private order: Cut[];

  /** `most`: cuts tried in a picture before the part is given up there, a hand's costs as much as the whole body. `fits` tells whether points found can be the part looked for. */
  constructor(
    cuts: readonly Cut[],
    private readonly most: number,
    private readonly fits: (points: readonly Vec2[], place: P) => boolean,
  ) {
    this.order = [...cuts];
  }

  /** The part's points in px of the whole picture; undefined where none shows that fits. */
  find(picture: CanvasImageSource, place: P, network: PartNetwork): Vec2[] | undefined {
    for (const cut of this.order.slice(0, this.most)) {
      const points = this.findIn(picture, place, cut, network);
      if (!points || !this.fits(points, place)) continue;
      this.order = [cut, ...this.order.filter((c) => c !== cut)];
      return points;
    }
    // The ways that failed go to the end: the next picture tries others.
    this.order = [...this.order.slice(this.most), ...this.order.slice(0, this.most)];
    return undefined;
  }

  private findIn(picture: CanvasImageSource, place: P, { share, turn, mirror }: Cut, network: PartNetwork): Vec2[] | undefined {
    const { canvas, context } = this;
    const scale = INPUT / (place.side * share);
    // Picture to cut: about the part's middle, turned, mirrored, scaled.
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
