import { stepPose } from '../geometry/pose';
import { sectorOf } from '../instrument/strings';
import { NormalEquations } from '../linalg/normalEquations';
import { mean } from '../statistics';
import type { BowState } from './bowState';
import { type BowFrame, chooseStrings, type OtherString } from './chooseStrings';
import { type BowContext, imageResiduals, MID_STRIP } from './residuals';
import { SHARED_ENDS, sharedEndsOf, sharedEndsSigma } from './sharedEnds';
import { hairEndsOf } from './sighting';
import { stateOfVector, stateVector } from './solveFrame';

/** Change of the second difference from frame to frame at 25 frames/s, 1 sigma: mm, degrees, degrees, share (ours, from recorded strokes). */
const ROUGHNESS = [0.6, 0.5, 1.2, 0.012] as const;
/** Deviation of a held level from the bridge's own, degrees, and how long one deviation lasts, seconds (ours). */
const LEVEL_SPREAD = 1.5;
const LEVEL_MEMORY = 0.3;
/** Where two strings sound at once the bow lies at the boundary between them, to so many degrees (ours: the hair gives way by 1.5). */
const TOGETHER_SPREAD = 2;
/** and a string heard so for much of its time is not held at its own level between either: its bias may be so much of the way to there (ours). */
const TOGETHER_BIAS = 0.7;
/** A crossing passes between levels for about this long to either side, seconds (ours). */
const CROSSING_REACH = 0.18;
/** In a crossing the level changes by this much more abruptly than within a string (ours). */
const CROSSING_ROUGHNESS = 6;
/** Constant over a clip, 1 sigma: bias of a string's level (degrees). */
const LEVEL_BIAS = 1;
/** Weak pull toward an ordinary stroke, so that an unseen number stays finite: mm about mid-strip, degrees, share about the middle; each second counts once. */
const CONTACT_SIGMA = 25;
const SKEW_SIGMA = 15;
const POSITION_SIGMA = 0.5;

/** Where the sound speaks so much (chi squared) against the sector's string, the string stays (ours). */
const HEARD_OTHERWISE = 3;

/** Errors of the picture that last about so long count once (seconds, ours). */
const FRAME_MEMORY = 0.06;

/** Numbers that say how a frame's pose is off. */
const POSE = 6;
/** Unknowns of a frame: the bow's four, and its pose's error. */
const WIDTH = 4 + POSE;
/** Unknowns that a frame's picture depends on: its own, and what all frames share about the ends. */
const ROW = WIDTH + SHARED_ENDS;
/** The error of followed poses lasts about so long (seconds, ours). */
const POSE_MEMORY = 1;
/** Largest step of an iteration. */
const LIMITS = [20, 10, 10, 0.2, ...Array.from({ length: POSE }, () => 3)];

const STEP = [0.05, 0.02, 0.02, 1e-4] as const;
/** In the units of {@link sharedEndsOf}. */
const SHARED_STEP = [1e-4, 0.1, 0.1, 0.1, 0.1] as const;

export interface SmoothedBow {
  /** The context with which residuals were weighted. */
  readonly context: BowContext;
  readonly states: readonly BowState[];
  readonly strings: readonly number[];
  /** The likeliest other reading of each frame: another string, and how the bow would then lie. */
  readonly others: readonly (OtherString | undefined)[];
  /** Posterior standard uncertainty from the picture's noise alone. */
  readonly sigma: readonly BowState[];
  /** Response of all states (4 a frame) to changes of the residuals (4 a frame): used to carry errors of the marks along. */
  respond(change: Float64Array): Float64Array;
  /** Share of frames whose own picture disagrees with the estimate by more than 4 sigma. */
  readonly disagreement: number;
}

/**
 * All frames together: measured line and ends, level of the played string, smooth motion, the followed poses' own
 * slow error and what stays the same over the clip, solved as one banded least-squares problem with a border; strings
 * are put right by the sector the solution falls in, up to four rounds.
 */
export function smoothBow(given: BowContext, frames: readonly BowFrame[]): SmoothedBow {
  const n = frames.length;
  const { strings, states: first, others } = chooseStrings(given, frames);
  const chosen = [...strings];
  const x = new Float64Array(WIDTH * n);
  fillStart(given, frames, strings, first, x);
  const G = given.strings.length + SHARED_ENDS;
  const globals = new Float64Array(G);
  const shared = sharedEndsSigma(guessedAlong(given, frames));
  let solved: ReturnType<typeof linearised> | undefined;

  for (let round = 0; round < 4; round++) {
    for (let iteration = 0; iteration < 6; iteration++) {
      solved = linearised(given, frames, strings, x, globals, shared);
      const move = solved.step;
      let largest = 0;
      for (let i = 0; i < WIDTH * n; i++) {
        // Far from the solution a full step can overshoot in the angles.
        const limit = LIMITS[i % WIDTH]!;
        const d = Math.max(-limit, Math.min(limit, move[i]!));
        x[i]! += d;
        largest = Math.max(largest, Math.abs(d) / limit);
      }
      for (let g = 0; g < G; g++) globals[g]! += move[WIDTH * n + g]!;
      if (largest < 1e-4) break;
    }
    const sector = frames.map((_, i) => sectorOf(given.levels, x[WIDTH * i + 2]!));
    const calm = sector.map((_, i) => medianOf(sector.slice(Math.max(0, i - 2), i + 3)));
    let changed = 0;
    calm.forEach((s, i) => {
      const { heard, together } = frames[i]!;
      // On the boundary of two strings that both sound, the note tells which is meant.
      const both = together?.includes(s) && together.includes(strings[i]!);
      if (s !== strings[i] && !both && !(heard && heard[s]! - heard[strings[i]!]! > HEARD_OTHERWISE)) {
        // The same line through the neighbouring string: keep the bow in space, name the string anew.
        strings[i] = s;
        changed++;
      }
    });
    if (changed === 0) break;
  }
  solved = linearised(given, frames, strings, x, globals, shared);
  const final = solved;
  const { variance } = final;
  const sigma = frames.map((_, i) => stateOfVector([0, 1, 2, 3].map((k) => Math.sqrt(Math.max(0, variance(WIDTH * i + k))))));
  return {
    context: withShared(given, globals),
    states: frames.map((_, i) => stateOfVector(x, WIDTH * i)),
    strings,
    // Where the batch has put another string right, the first choice's doubt no longer speaks of it.
    others: others.map((o, i) => (strings[i] === chosen[i] ? o : undefined)),
    sigma,
    respond: final.respond,
    disagreement: final.disagreement,
  };
}

const medianOf = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** First states by interpolation over frames that have none. */
function fillStart(context: BowContext, frames: readonly BowFrame[], strings: readonly number[], first: readonly (BowState | undefined)[], x: Float64Array) {
  const known = first.flatMap((s, i) => (s ? [i] : []));
  for (let i = 0; i < frames.length; i++) {
    const after = known.find((k) => k >= i);
    const before = known.findLast((k) => k <= i);
    const a = before === undefined ? undefined : first[before];
    const b = after === undefined ? undefined : first[after];
    const va = a ?? b ?? { contact: context.strings[0]!.nut[0] * MID_STRIP, skew: 0, inclination: context.levels.natural[strings[i]!]!, position: 0.5 };
    const vb = b ?? va;
    const share = before !== undefined && after !== undefined && after > before ? (i - before) / (after - before) : 0;
    const pa = stateVector(va);
    const pb = stateVector(vb);
    for (let k = 0; k < 4; k++) x[WIDTH * i + k] = pa[k]! + (pb[k]! - pa[k]!) * share;
  }
}

/** The context with the ends' shared errors, which follow the strings' levels among the globals. */
const withShared = (context: BowContext, globals: ArrayLike<number>): BowContext => ({ ...context, shared: sharedEndsOf(globals, context.strings.length) });

/** How far (mm along the bow, 1 sigma) the ends may be off because they were placed by guess, by the first frame that shows one placed so. */
function guessedAlong(context: BowContext, frames: readonly BowFrame[]): { frog: number; tip: number } {
  const of = (which: 'frog' | 'tip') => {
    const sighting = frames.find(({ sighting }) => sighting.line && sighting[which]?.guess)?.sighting;
    const ends = sighting && hairEndsOf(sighting);
    return ends ? (sighting[which]!.guess! * context.hair) / Math.hypot(ends.tip[0] - ends.frog[0], ends.tip[1] - ends.frog[1]) : 0;
  };
  return { frog: of('frog'), tip: of('tip') };
}

/** The batch about a solution: its normal equations frame by frame, and what follows from them. `sharedSigma` is the ends' shared errors' prior. */
function linearised(given: BowContext, frames: readonly BowFrame[], strings: readonly number[], x: Float64Array, globals: Float64Array, sharedSigma: Float64Array) {
  const n = frames.length;
  const S = given.strings.length;
  const G = S + SHARED_ENDS;
  const context = withShared(given, globals);
  const equations = new NormalEquations(WIDTH * n, 2 * WIDTH, G);
  // Slopes of the picture's residuals, kept for the response to changed marks: 4 rows a frame, already weighted.
  const weighted = new Float64Array(4 * ROW * n);
  let disagree = 0;
  let seen = 0;
  const residuals = new Float64Array(4);
  const slopes = new Float64Array(4 * ROW);
  const ofShared = Array.from({ length: SHARED_ENDS }, (_, k) => WIDTH * n + S + k);
  /** The context with each of the ends' shared errors a step further. */
  const stepped = SHARED_STEP.map((step, k) =>
    withShared(
      given,
      globals.map((v, g) => (g === S + k ? v + step : v)),
    ),
  );
  const changes = crossingTimes(frames, strings);
  const mid = context.strings[0]!.nut[0] * MID_STRIP;
  frames.forEach((frame, i) => {
    const string = strings[i]!;
    const at = Array.from({ length: WIDTH }, (_, k) => WIDTH * i + k);
    const dt = frameStep(frames, i);
    if (frame.pose && frame.sighting.line) {
      pictureAbout(context, stepped, frame, string, x, WIDTH * i, residuals, slopes);
      const all = [...at, ...ofShared];
      seen++;
      if (Math.max(Math.abs(residuals[0]!), Math.abs(residuals[1]!)) > 4) disagree++;
      residuals.forEach((r, q) => {
        // Errors of neighbouring frames are alike: a frame counts for the part of that time it brings.
        const weight = Math.min(1, dt / FRAME_MEMORY) / (1 + (r / 3) ** 2);
        equations.add(all, slopes, r, weight, ROW * q);
        for (let k = 0; k < ROW; k++) weighted[ROW * (4 * i + q) + k] = weight * slopes[ROW * q + k]!;
      });
    }
    // The poses' error, in units of what is expected of it, changes slowly.
    const kept = i > 0 ? Math.exp(-Math.max(1e-3, frame.t - frames[i - 1]!.t) / POSE_MEMORY) : 0;
    for (const k of at.slice(4)) {
      if (i === 0) equations.add([k], [1], x[k]!, 1);
      else equations.add([k, k - WIDTH], [1, -kept], x[k]! - kept * x[k - WIDTH]!, 1 / (1 - kept * kept));
    }
    // Level of the played string, looser while the bow passes from one to the next.
    const [contact, skew, inclination, position] = at as [number, number, number, number];
    const loose = near(changes, frame.t) ? 0.1 : 1;
    const { natural, boundary } = context.levels;
    const { together } = frame;
    const weight = (loose * dt) / LEVEL_MEMORY;
    if (together?.includes(string)) equations.add([inclination], [1], x[inclination]! - boundary[together[0]]!, weight / TOGETHER_SPREAD ** 2);
    else equations.add([inclination, WIDTH * n + string], [1, -1], x[inclination]! - natural[string]! - globals[string]!, weight / LEVEL_SPREAD ** 2);
    // Ordinary strokes.
    equations.add([contact], [1], x[contact]! - mid, dt / CONTACT_SIGMA ** 2);
    equations.add([skew], [1], x[skew]!, dt / SKEW_SIGMA ** 2);
    equations.add([position], [1], x[position]! - 0.5, dt / POSITION_SIGMA ** 2);
  });
  // Smooth motion, allowing for uneven frame times.
  for (let i = 1; i + 1 < n; i++) {
    const before = Math.max(1e-3, frames[i]!.t - frames[i - 1]!.t);
    const after = Math.max(1e-3, frames[i + 1]!.t - frames[i]!.t);
    const mean = (before + after) / 2;
    const bend = [mean / before, -mean / before - mean / after, mean / after];
    for (let k = 0; k < 4; k++) {
      const rough = ROUGHNESS[k]! * (k === 2 && near(changes, frames[i]!.t) ? CROSSING_ROUGHNESS : 1);
      const at = [i - 1, i, i + 1].map((j) => WIDTH * j + k);
      const value = at.reduce((sum, j, m) => sum + bend[m]! * x[j]!, 0);
      equations.add(at, bend, value, 1 / (rough * (mean * 25) ** 1.5) ** 2);
    }
  }
  globals.forEach((bias, g) => {
    const sigma = g < S ? levelBias(context, frames, strings, g) : sharedSigma[g - S]!;
    equations.add([WIDTH * n + g], [1], bias, 1 / sigma ** 2);
  });

  const system = equations.system();
  return {
    step: equations.step(system),
    disagreement: seen ? disagree / seen : 1,
    variance: (i: number) => system.covariance(i, i),
    respond: (change: Float64Array) => {
      const b = new Float64Array(WIDTH * n);
      const g = new Float64Array(G);
      change.forEach((c, row) => {
        if (c === 0) return;
        for (let k = 0; k < WIDTH; k++) b[WIDTH * (row >> 2) + k]! -= weighted[ROW * row + k]! * c;
        for (let k = 0; k < SHARED_ENDS; k++) g[S + k]! -= weighted[ROW * row + WIDTH + k]! * c;
      });
      const { local } = system.solve(b, g);
      return Float64Array.from({ length: 4 * n }, (_, j) => local[WIDTH * (j >> 2) + (j & 3)]!);
    },
  };
}

/** How far a string's level may be off through the clip, degrees (1 sigma). */
function levelBias({ levels }: BowContext, frames: readonly BowFrame[], strings: readonly number[], string: number): number {
  const own = frames.filter((_, i) => strings[i] === string);
  const ways = own.map(({ together }) => (together?.includes(string) ? Math.abs(levels.boundary[together[0]]! - levels.natural[string]!) : 0));
  return Math.hypot(LEVEL_BIAS, TOGETHER_BIAS * mean(own.length > 0 ? ways : [0]));
}

/**
 * Residuals of a frame's picture (see imageResiduals) about the unknowns at `at`, and their slopes, one row a residual: the
 * frame's own unknowns, then what all frames share about the ends (`stepped`: contexts in which each is a step further).
 */
function pictureAbout(
  context: BowContext,
  stepped: readonly BowContext[],
  { pose, sighting, poseSpread: spread }: BowFrame,
  string: number,
  x: Float64Array,
  at: number,
  residuals: Float64Array,
  slopes: Float64Array,
): void {
  const state = stateOfVector(x, at);
  imageResiduals(context, pose!, sighting, string, state, residuals, 0);
  const moved = new Float64Array(4);
  const v = stateVector(state);
  for (let k = 0; k < 4; k++) {
    const here = v[k]!;
    v[k] = here + STEP[k]!;
    imageResiduals(context, pose!, sighting, string, stateOfVector(v), moved, 0);
    v[k] = here;
    for (let q = 0; q < 4; q++) slopes[ROW * q + k] = (moved[q]! - residuals[q]!) / STEP[k]!;
  }
  for (let k = 0; k < POSE; k++) {
    if (spread) {
      const step = [0, 1, 2, 3, 4, 5].map((a) => spread[6 * a + k]!);
      imageResiduals(context, stepPose(pose!, step), sighting, string, state, moved, 0);
    }
    for (let q = 0; q < 4; q++) slopes[ROW * q + 4 + k] = spread ? moved[q]! - residuals[q]! : 0;
  }
  for (let k = 0; k < SHARED_ENDS; k++) {
    imageResiduals(stepped[k]!, pose!, sighting, string, state, moved, 0);
    for (let q = 0; q < 4; q++) slopes[ROW * q + WIDTH + k] = (moved[q]! - residuals[q]!) / SHARED_STEP[k]!;
  }
  // What the pose's error, as far as it has shown, does to the picture.
  for (let q = 0; q < 4; q++) for (let k = 4; k < WIDTH; k++) residuals[q]! += slopes[ROW * q + k]! * x[at + k]!;
}

const near = (changes: readonly number[], t: number): boolean => changes.some((change) => Math.abs(change - t) < CROSSING_REACH);

function frameStep(frames: readonly BowFrame[], i: number): number {
  const a = frames[Math.max(0, i - 1)]!.t;
  const b = frames[Math.min(frames.length - 1, i + 1)]!.t;
  const spans = Math.min(frames.length - 1, i + 1) - Math.max(0, i - 1);
  return spans > 0 ? Math.max(1e-3, (b - a) / spans) : 0.04;
}

function crossingTimes(frames: readonly BowFrame[], strings: readonly number[]): number[] {
  const times: number[] = [];
  for (let i = 1; i < frames.length; i++) if (strings[i] !== strings[i - 1]) times.push((frames[i]!.t + frames[i - 1]!.t) / 2);
  return times;
}
