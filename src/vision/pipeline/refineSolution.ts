import type { SupposedCamera } from '../../core/geometry/camera';
import type { Dimensions } from '../../core/instrument/dimensions';
import { type MarksSolution, solveMarks } from '../../core/instrument/solveMarks';
import { nearestIndex } from '../../core/nearestIndex';
import type { MarkedFrame } from '../../core/take/marksToSolution';
import type { FrameAt, FrameSource } from '../film/frame';
import { FOUND_SEARCH, findEdges } from '../instrument/edgeSearch';

/** Solves the marks again, from the camera supposed before any measurement, together with the strings and edges of the fingerboard found in the marked frames, to a fraction of a pixel. */
export async function refineSolution(
  source: FrameSource,
  supposed: SupposedCamera,
  frameAt: FrameAt,
  solution: MarksSolution,
  dimensions: Dimensions,
  frames: readonly MarkedFrame[],
): Promise<MarksSolution> {
  let current = solution;
  for (let round = 0; round < 2; round++) {
    const edges = [];
    for (const [i, marked] of frames.entries()) {
      const frame = await frameAt(nearestIndex(source.times, marked.t));
      const bow = marked.frog && marked.tip ? { frog: marked.frog, tip: marked.tip } : undefined;
      edges.push(findEdges(frame, current.camera, current.model, current.poses[i]!, bow, ...(round === 0 && marked.found ? [FOUND_SEARCH] : [])));
    }
    if (edges.every((list) => list.length === 0)) return current;
    current = solveMarks(
      supposed,
      dimensions,
      frames.map((f) => f.sightings),
      { from: current, edges },
    );
  }
  return current;
}
