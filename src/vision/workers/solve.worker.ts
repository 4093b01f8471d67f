import * as Comlink from 'comlink';
import type { Marks } from '../../core/formats/marks';
import type { Vec2 } from '../../core/geometry/vec3';
import { stringLines } from '../../core/instrument/strings';
import { instrumentWire } from '../../core/instrument/wire';
import { MarksError } from '../../core/instrument/solveMarks';
import { looksLeftHanded, mirrorMarks } from '../../core/take/handedness';
import { markedFrames, placesInstrument, solutionFromMarks } from '../../core/take/marksToSolution';
import { plainError } from './plainError';

/** The instrument solved from the marks of one frame, as lines to draw. */
export interface Wire {
  readonly t: number;
  readonly lines: readonly Vec2[][];
  /** Largest distance of a mark from the wire, pixels, and whose. */
  readonly worst: { readonly landmark: string; readonly distance: number };
}

const api = {
  /** Wires of every frame that has enough marks; rejects with a message for the teacher. */
  wires(given: Marks): Wire[] {
    try {
      const left = given.instrument.side === 'left';
      if (!left && looksLeftHanded(given)) {
        throw new MarksError('Low and high side look swapped. Check which side the lowest string is on; if this student plays left-handed, say so beside the size.');
      }
      const marks = left ? mirrorMarks(given) : given;
      const back = (p: Vec2): Vec2 => (left ? [given.video.width - p[0], p[1]] : p);
      const times = markedFrames(marks)
        .filter(placesInstrument)
        .map((f) => f.t);
      const { solution } = solutionFromMarks(marks);
      const strings = stringLines(solution.model, marks.instrument.family);
      return times.map((t, i) => ({
        t,
        lines: instrumentWire(solution.camera, solution.poses[i]!, solution.model, strings).map((line) => line.map(back)),
        worst: { landmark: solution.worst.landmark, distance: solution.worst.distance },
      }));
    } catch (error) {
      throw plainError(error);
    }
  },
};

export type SolveWorker = typeof api;
Comlink.expose(api);
