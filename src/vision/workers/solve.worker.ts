import * as Comlink from 'comlink';
import { knownEnd } from '../../core/bow/stateOnLine';
import type { Marks } from '../../core/formats/marks';
import { insidePicture, project } from '../../core/geometry/camera';
import { toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { INSTRUMENT_LANDMARKS } from '../../core/instrument/landmarks';
import { MarksError } from '../../core/instrument/solveMarks';
import { stringLines } from '../../core/instrument/strings';
import { instrumentWire } from '../../core/instrument/wire';
import { bowContextOf } from '../../core/measures/measureFrames';
import { isLeftHanded, mirrorMarks } from '../../core/take/handedness';
import { markedFrames, placesInstrument, solutionFromMarks, zoomByMarks } from '../../core/take/marksToSolution';
import { type PartFitness, playerFitness } from '../../core/take/playerFitness';
import { type ViewFitness, viewFitness } from '../../core/take/viewFitness';
import { searchBow, searchWholeBow } from '../bow/bowSearch';
import { lumaFrame } from '../film/lumaFrame';
import { plainError } from './plainError';

/** The instrument solved from the marks of one frame, as lines to draw. */
export interface Wire {
  readonly t: number;
  readonly lines: readonly Vec2[][];
  /** Largest distance of a mark from the wire, pixels, and whose. */
  readonly worst: { readonly landmark: string; readonly distance: number };
}

/** What a view can judge of the bow, and of the player. */
export type FitnessOfView = ViewFitness & {
  readonly player: readonly PartFitness[];
  /** How far the lens was zoomed, where nobody said and the marks do. */
  readonly zoom?: number | undefined;
};

/** What could be accepted instead of being marked by hand. */
export interface Suggestion {
  readonly points: Readonly<Record<string, Vec2>>;
}

let last: { readonly key: string; readonly solved: ReturnType<typeof solveAnew> } | undefined;

/** Solves marks as the measuring will, in the mirrored picture where the player is left-handed; the last ones are asked about several times. */
function solve(given: Marks) {
  const key = JSON.stringify(given);
  if (last?.key !== key) last = { key, solved: solveAnew(given) };
  return last.solved;
}

function solveAnew(given: Marks) {
  const left = given.instrument.side === 'left';
  if (!left && isLeftHanded(given)) {
    throw new MarksError('Low and high side look swapped. Check which side the lowest string is on; if this student plays left-handed, say so beside the size.');
  }
  const marks = left ? mirrorMarks(given) : given;
  const back = (p: Vec2): Vec2 => (left ? [given.video.width - p[0], p[1]] : p);
  const solved = solutionFromMarks(marks);
  return { marks, back, left, zoom: zoomByMarks(solved, marks), ...solved };
}

const api = {
  /** Wires of every frame that has enough marks; rejects with a message for the teacher. */
  wires(given: Marks): Wire[] {
    try {
      const { marks, back, solution } = solve(given);
      const times = markedFrames(marks)
        .filter(placesInstrument)
        .map((f) => f.t);
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

  /** What the view can judge, told from the marks alone; undefined while they do not place the instrument. */
  fitness(given: Marks): FitnessOfView | undefined {
    try {
      const { marks, solution, dimensions, zoom } = solve(given);
      const { family } = marks.instrument;
      return { ...viewFitness(solution, dimensions, family), player: playerFitness(solution, dimensions, family), zoom };
    } catch {
      return undefined;
    }
  },

  /**
   * Points that are not marked yet in the frame at `t`: the instrument's where the solved shape puts them, the
   * bow's ends where hair and stick are seen. Each is a guess for the teacher to accept or move.
   */
  suggest(given: Marks, t: number, picture: ImageBitmap): Suggestion {
    const { marks, back, left, solution, dimensions } = solve(given);
    const frames = markedFrames(marks).filter(placesInstrument);
    const at = frames.findIndex((f) => Math.abs(f.t - t) < 1e-4);
    if (at < 0) return { points: {} };
    const pose = solution.poses[at]!;
    const marked = marks.frames.find((f) => Math.abs(f.t - t) < 1e-4)!.points;
    const points: Record<string, Vec2> = {};
    for (const name of INSTRUMENT_LANDMARKS) {
      const place = marked[name] ? undefined : project(solution.camera, toOuter(pose, solution.model.landmarks[name]));
      if (place && insidePicture(solution.camera, place, 2)) points[name] = back(place);
    }
    const { frog, tip } = frames[at]!;
    if (!frog || !tip) {
      const context = bowContextOf({ family: marks.instrument.family, dimensions, solution });
      const frame = lumaFrame(picture, left);
      const end = knownEnd(frog, tip);
      const found = end ? searchBow(frame, pose, context, end, 1)[0] : searchWholeBow(frame, pose, context);
      if (found && !frog) points['bow.frog'] = back(found.frog);
      if (found && !tip) points['bow.tip'] = back(found.tip);
    }
    return { points };
  },
};

export type SolveWorker = typeof api;
Comlink.expose(api);
