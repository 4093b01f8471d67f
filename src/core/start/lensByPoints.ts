import type { Camera, SupposedCamera } from '../geometry/camera';
import { otherLenses } from '../geometry/otherLenses';
import { deepenPose, type Pose } from '../geometry/pose';
import type { Dimensions } from '../instrument/dimensions';
import { SHAPE } from '../instrument/landmarks';
import { type FittedPlacings, fitPlacings, type PlacingEvidence } from './fitPlacings';

/** A frame's points as the network saw them, and about where the main lens would have the instrument. */
export type SeenPoints = Omit<PlacingEvidence, 'edges'>;

/** Placings through a lens: their focal length is what came out of the supposed one. */
export interface LensByPoints extends FittedPlacings {
  readonly supposed: SupposedCamera;
}

/**
 * The points must fit another lens so much better than the main one (squared sigmas), those of more frames than these counted as
 * these: the network errs alike in all of them. (Ours: of 15 films of two renderers taken with the main lens or nearly, four of instruments
 * unlike any, they do by 0.3 to 5.3, of six taken with others by 3.5 to 22.)
 */
const ANOTHER_LENS = { better: 8, frames: 4 } as const;
/**
 * A film's placings through another lens than the main one, by the network's points alone; undefined where they do not speak plainly for
 * one. (Contours do not tell: laid on an instrument, they take a wrong lens up in its shape.)
 */
export function lensByPoints(main: Camera, dimensions: Dimensions, frames: readonly SeenPoints[]): LensByPoints | undefined {
  const through = (supposed: SupposedCamera): LensByPoints => {
    const fitFrom = (poses: readonly Pose[], from: Pick<FittedPlacings, 'shape' | 'logFocal'>) =>
      fitPlacings(
        supposed,
        dimensions,
        frames.map(({ points }, f) => ({ pose: poses[f]!, points, edges: [] })),
        from,
        1,
      );
    const first = fitFrom(
      frames.map(({ pose }) => deepenPose(pose, supposed.focal / main.focal)),
      { shape: new Float64Array(SHAPE.length), logFocal: 0 },
    );
    // A fit does not go all the way.
    return { ...fitFrom(first.poses, first), supposed };
  };
  const asSupposed = through(main);
  let best = asSupposed;
  for (const lenses of otherLenses(main)) {
    // The further from the right lens the worse: where one step does not help the next will not.
    for (const lens of lenses) {
      const fit = through(lens);
      if (fit.cost >= best.cost) break;
      best = fit;
    }
  }
  const better = (asSupposed.cost - best.cost) * Math.min(1, ANOTHER_LENS.frames / frames.length);
  return better > ANOTHER_LENS.better ? best : undefined;
}
