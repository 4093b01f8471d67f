import { FOUND_END, GUESSED_END, type UnsureEnds } from '../bow/unsureEnds';
import { checkMarks, type Marks, markedDimensions } from '../formats/marks';
import { type SupposedCamera, supposedCamera } from '../geometry/camera';
import { otherLenses, zoomOfLens } from '../geometry/otherLenses';
import { deepenPose, facingOf, type Pose } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import { isInstrumentLandmark } from '../instrument/landmarks';
import { type LandmarkSighting, MarksError, type MarksSolution, markSigma, solveMarks } from '../instrument/solveMarks';

/** Marks of one frame, sorted by what they are for. */
export interface MarkedFrame {
  readonly t: number;
  readonly sightings: readonly LandmarkSighting[];
  readonly frog: Vec2 | undefined;
  readonly tip: Vec2 | undefined;
  readonly unsure: UnsureEnds;
  /** Placed by the landmark network, and not corrected by hand. */
  readonly found: boolean;
}

/** Marks further from the solved instrument than this (sigmas, root mean square) do not belong to it (ours). */
const MAX_MISFIT = 4;

/**
 * Points found by the landmark network are so much less sure than marks by hand: they err together, so that string and
 * fingerboard edges beside them must be able to move all (ours, measured on clips of another renderer). Much less still
 * where a hand has corrected one of them, so that the others follow it.
 */
const FOUND_FACTOR = 5;
const CORRECTED_FACTOR = 10;

/**
 * In views low over the plate found points err up to so many times as much: by 2.3 pixels of the network's picture instead
 * of 1.2 (ours: 83 pictures of films of two renderers). Sines of the angle over the plate.
 */
const LOW_VIEW = { from: 0.35, all: 0.25, factor: 2 } as const;

function lowViewFactor(pose: Pose): number {
  const share = Math.min(1, Math.max(0, (LOW_VIEW.from - facingOf(pose)) / (LOW_VIEW.from - LOW_VIEW.all)));
  return 1 + share * (LOW_VIEW.factor - 1);
}

export const markedFrames = (marks: Marks): MarkedFrame[] => framesOf(marks, marks.frames);

function framesOf(marks: Marks, frames: Marks['frames']): MarkedFrame[] {
  const camera = supposedCamera(marks.video);
  const sigma = markSigma(camera);
  return frames.map((frame) => {
    const guessed = new Set(frame.guessed ?? []);
    const found = new Set(frame.found ?? []);
    const corrected = Object.keys(frame.points).some((name) => isInstrumentLandmark(name) && !found.has(name) && !guessed.has(name));
    const foundSigma = sigma * (corrected ? CORRECTED_FACTOR : FOUND_FACTOR);
    // Where the tip was found, a frog that is called a guess was reckoned from it.
    const unsureEnd = (end: 'frog' | 'tip') => {
      const name = `bow.${end}`;
      if (found.has(name) || (guessed.has(name) && found.has('bow.tip'))) return FOUND_END[end];
      return guessed.has(name) ? GUESSED_END : 0;
    };
    const sightings = Object.entries(frame.points).flatMap(([name, point]): LandmarkSighting[] =>
      isInstrumentLandmark(name) ? [{ landmark: name, point, sigma: guessed.has(name) ? 6 * (sigma / 0.8) : found.has(name) ? foundSigma : sigma }] : [],
    );
    return {
      t: frame.t,
      sightings,
      frog: frame.points['bow.frog'],
      tip: frame.points['bow.tip'],
      unsure: { frog: unsureEnd('frog'), tip: unsureEnd('tip') },
      found: found.size > 0 && !corrected,
    };
  });
}

/** Frames that place the instrument: enough of its points are marked. */
export const placesInstrument = (frame: MarkedFrame): boolean => frame.sightings.length >= 4;

/** The same frame with points believed less by a factor. */
function withDoubt(frame: MarkedFrame, factor: number): MarkedFrame {
  return factor === 1 ? frame : { ...frame, sightings: frame.sightings.map((s) => ({ ...s, sigma: factor * s.sigma })) };
}

export interface SolvedMarks {
  /** Its poses are those of `frames`, then of `agreeing`. */
  readonly solution: MarksSolution;
  /** What the camera is taken for before any measurement. */
  readonly supposed: SupposedCamera;
  readonly dimensions: Dimensions;
  readonly frames: readonly MarkedFrame[];
  readonly agreeing: readonly MarkedFrame[];
}

/** A camera as it is supposed to be, and what the marks make of it. */
interface Lens {
  readonly supposed: SupposedCamera;
  readonly solution: MarksSolution;
}

/**
 * The marks must fit another lens so much better than the main one (squared sigmas; ours): films taken with the wide lens or zoomed
 * in by a half do by 8 to 14 where they show much of the instrument, those taken with the main lens by 1 at most; of 60 instruments
 * as unlike others as the model expects none spoke for a lens it was not seen through, of as many half as unlike again two did.
 */
const ANOTHER_LENS = 8;

/** How far the lens was zoomed by what the marks say, to two figures; undefined where somebody said it, or they do not speak for another lens than the main one. */
export function zoomByMarks({ solution, supposed }: SolvedMarks, marks: Marks): number | undefined {
  const expected = supposedCamera(marks.video).focal;
  return supposed.focal === expected ? undefined : zoomOfLens(solution.camera.focal, expected);
}

/** The lens that the marks speak for, the main one unless another explains them plainly better. */
function likeliestLens(main: Lens, solve: (lens: Lens) => MarksSolution): Lens {
  // None can fit them by so much better.
  if (main.solution.cost < ANOTHER_LENS) return main;
  const others = otherLenses(main.supposed)
    .flat()
    .flatMap((supposed): Lens[] => {
      const poses = main.solution.poses.map((pose) => deepenPose(pose, supposed.focal / main.solution.camera.focal));
      try {
        return [{ supposed, solution: solve({ supposed, solution: { ...main.solution, camera: supposed, poses } }) }];
      } catch (error) {
        if (!(error instanceof MarksError)) throw error;
        // Through some lenses they cannot be seen so.
        return [];
      }
    });
  const best = others.reduce((a, b) => (b.solution.cost < a.solution.cost ? b : a), main);
  const unit = Math.max(1, best.solution.misfit) ** 2;
  return main.solution.cost - best.solution.cost > ANOTHER_LENS * unit ? best : main;
}

/**
 * Solves the instrument from marks.
 * @throws MarksError in plain words, naming the mark that fits worst when they do not belong together.
 */
export function solutionFromMarks(marks: Marks): SolvedMarks {
  checkMarks(marks);
  const dimensions = markedDimensions(marks);
  const frames = markedFrames(marks).filter(placesInstrument);
  if (frames.length === 0) {
    throw new MarksError(
      "No frame has four or more marked points of the instrument. Mark the corners of the nut and of the fingerboard's end, then the outer strings at the bridge.",
    );
  }
  const all = [...frames, ...framesOf(marks, marks.agreeing ?? []).filter(placesInstrument)];
  const solve = (list: readonly MarkedFrame[], { supposed, solution }: Partial<Lens> = {}) =>
    solveMarks(
      supposed ?? supposedCamera(marks.video),
      dimensions,
      list.map((f) => f.sightings),
      solution && { from: solution, edges: list.map(() => []) },
    );
  const said: Lens = { supposed: supposedCamera(marks.video), solution: solve(all) };
  const { supposed, solution: first } = marks.video.zoom === undefined ? likeliestLens(said, (lens) => solve(all, lens)) : said;
  const doubted = all.map((frame, i) => (frame.found ? withDoubt(frame, lowViewFactor(first.poses[i]!)) : frame));
  const solution = doubted.some((f, i) => f !== all[i]) ? solve(doubted, { supposed }) : first;
  if (solution.misfit > MAX_MISFIT) {
    throw new MarksError(
      `These marks do not fit a ${marks.instrument.size} ${marks.instrument.family}: "${solution.worst.landmark}" is ${Math.round(solution.worst.distance)} px from where it should be. Check that point, then the size, then whether low and high side are swapped.`,
    );
  }
  return { solution, supposed, dimensions, frames: doubted.slice(0, frames.length), agreeing: doubted.slice(frames.length) };
}
