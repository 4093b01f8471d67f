import type { PartSquare } from '../../core/body/partSquare';
import type { Vec2 } from '../../core/geometry/vec3';
import type { Cut, CutOrder } from './cutOrder';

/** The square as it stands in the mirrored picture. */
export const mirrorSquare = <P extends PartSquare>(place: P, width: number): P => ({ ...place, centre: [width - place.centre[0], place.centre[1]] });

/** Finds the points of a hand or a face in a small picture, as shares of its width and height. */
export type PartNetwork = (cut: OffscreenCanvas) => Vec2[] | undefined;

const INPUT = 256;

/** Looks for a hand or a face where it must be, first in the way that showed one last. */
export class PartFinder<P extends PartSquare> {
  private readonly canvas = new OffscreenCanvas(INPUT, INPUT);
  private readonly context = this.canvas.getContext('2d', { willReadFrequently: true })!;

  /** `fits` tells whether points found can be the part looked for. */
  constructor(
    private readonly order: CutOrder,
    private readonly fits: (points: readonly Vec2[], place: P) => boolean,
  ) {}

  /** The part's points in px of the whole picture; undefined where none shows that fits. */
  find(picture: CanvasImageSource, place: P, network: PartNetwork): Vec2[] | undefined {
    for (const cut of this.order.next()) {
      const points = this.findIn(picture, place, cut, network);
      if (!points || !this.fits(points, place)) continue;
      this.order.found(cut);
      return points;
    }
    this.order.none();
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
