import { type BowState, type HairLine, hairLine } from '../bow/bowState';
import { endOnDoubt } from '../bow/endOn';
import { type BowContext, MID_STRIP } from '../bow/residuals';
import { parallaxOf } from '../bow/sharedEnds';
import { type Camera, insidePicture, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromAxes, type Mat3, multiply, transpose } from '../geometry/rotation';
import { cross, dot, mix, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import type { Family } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { bowContextOf, measureFrames, type TrackedFrame } from '../measures/measureFrames';
import { quantile } from '../statistics';

export const JUDGED = ['skew_deg', 'contact_fraction', 'inclination_deg'] as const;
export type JudgedQuantity = (typeof JUDGED)[number];
export type ViewGrade = 'fit' | 'doubtful' | 'unfit';

/**
 * Half widths of the bands a view must be able to tell apart: skew and contact of the default rubric, and the
 * sector of an inner string (sections 3 and 6 of the measurement reference).
 */
const HALF_BAND: Record<JudgedQuantity, number> = { skew_deg: 5, contact_fraction: 0.15, inclination_deg: 7.7 };

export interface QuantityFitness {
  readonly quantity: JudgedQuantity;
  readonly grade: ViewGrade;
  /** Predicted standard uncertainty, median over strings and bow; infinite where the quantity would be absent. */
  readonly u: number;
  /** Strings on which the view does worse than on the whole, lowest first. */
  readonly weakOn: readonly string[];
}

export interface ViewFitness {
  readonly quantities: readonly QuantityFitness[];
  /** A place for the camera that would do better for what is not fit, and for which of it; absent when none of those known does. */
  readonly better?: { readonly words: string; readonly gains: readonly JudgedQuantity[] } | undefined;
}

/** At most a third of the half-band is fit, up to the half-band doubtful (section 6 of the measurement reference). */
export const gradeOf = (u: number, halfBand: number): ViewGrade => (u <= halfBand / 3 ? 'fit' : u <= halfBand ? 'doubtful' : 'unfit');

/** Where a camera may stand, as the direction from the bridge to it in the instrument frame (x scroll, y low side, z up). */
const PLACES: readonly { readonly words: string; readonly toward: Vec3 }[] = [
  { words: 'in front of the student and above the head, looking down on the strings at about 45 degrees', toward: [0.45, -0.5, 0.75] },
  { words: 'from straight above the instrument', toward: [0.1, -0.15, 1] },
  { words: 'in front on the scroll side, a little above the instrument', toward: [0.85, -0.1, 0.5] },
  { words: 'on the bow-arm side, a little above the instrument', toward: [0, -0.85, 0.5] },
];

/** Sideways error of a line and of the ends as the tracker reports them on clear film (px at 960 across). */
const SEEN = { line: 0.45, frog: 5, tip: 3 } as const;
const STEPS = 13;
const MARKED = (STEPS - 1) / 2;

/**
 * What a view can judge, told from the marks before anything is followed: bows on every string are put before
 * the solved camera, seen with the tracker's usual errors, and measured; what comes back is the uncertainty to expect.
 */
export function viewFitness(solution: MarksSolution, dimensions: Dimensions, family: Family): ViewFitness {
  const pose = solution.poses[0]!;
  const quantities = predict(solution, dimensions, family, pose);
  if (quantities.every((q) => q.grade === 'fit')) return { quantities };
  const weak = quantities.filter((q) => q.grade !== 'fit');
  const distance = Math.hypot(...pose.translation);
  let better: ViewFitness['better'];
  let best = badness(quantities);
  for (const place of PLACES) {
    const there = predict(solution, dimensions, family, lookFrom(place.toward, distance));
    const value = badness(there);
    const gains = weak.filter((w) => rank(there.find((q) => q.quantity === w.quantity)!.grade) < rank(w.grade)).map((w) => w.quantity);
    if (gains.length > 0 && value < best) {
      best = value;
      better = { words: place.words, gains };
    }
  }
  return { quantities, better };
}

const rank = (grade: ViewGrade) => ['fit', 'doubtful', 'unfit'].indexOf(grade);
const badness = (list: readonly QuantityFitness[]) => list.reduce((sum, q) => sum + Math.min(3, q.u / HALF_BAND[q.quantity]), 0);

/** Pose of an instrument whose bridge stands on the optical axis, seen from a direction of its own frame, its long axis across the picture. */
function lookFrom(toward: Vec3, distance: number): Pose {
  const z = scale(normalize(toward), -1);
  const x = normalize(cross(cross(z, [1, 0, 0]), z));
  const axes: Mat3 = fromAxes(x, cross(z, x));
  return { rotation: transpose(axes), translation: [0, 0, distance] };
}

function predict(solution: MarksSolution, dimensions: Dimensions, family: Family, pose: Pose): QuantityFitness[] {
  const there: MarksSolution = { ...solution, poses: solution.poses.map((p, i) => (i === 0 ? pose : moved(p, solution.poses[0]!, pose))) };
  const context = bowContextOf({ solution: there, dimensions, family });
  const perString = context.strings.map((_, string) => {
    const frames = bowsOn(context, pose, string);
    return measureFrames({ family, dimensions, solution: there, frames }).frames;
  });
  return JUDGED.map((quantity): QuantityFitness => {
    const us = perString.map((frames) => frames.map((f) => f.values[quantity]?.u ?? Number.POSITIVE_INFINITY));
    const half = HALF_BAND[quantity];
    const u = quantile(us.flat(), 0.5);
    const grade = gradeOf(u, half);
    const weakOn = us.flatMap((list, s) => (rank(gradeOf(quantile(list, 0.5), half)) > rank(grade) ? [context.strings[s]!.name] : []));
    return { quantity, grade, u, weakOn };
  });
}

/** A further marked pose carried along when the first is put elsewhere. */
const moved = (p: Pose, first: Pose, to: Pose): Pose => {
  const turn = multiply(to.rotation, transpose(first.rotation));
  return { rotation: multiply(turn, p.rotation), translation: to.translation };
};

/** A whole bow on one string, square in mid-strip, as the tracker would see it. */
function bowsOn(context: BowContext, pose: Pose, string: number): TrackedFrame[] {
  const unit = Math.max(context.camera.width, context.camera.height) / 960;
  const hairAt = (position: number): HairLine => {
    const state: BowState = { contact: context.strings[string]!.nut[0] * MID_STRIP, skew: 0, inclination: context.levels.natural[string]!, position };
    return hairLine(state, context.strings[string]!, context.hair, context.side);
  };
  // Marked in mid-bow.
  const middle = hairAt(0.5);
  return Array.from({ length: STEPS }, (_, i): TrackedFrame => {
    const hair = hairAt(0.1 + (0.8 * i) / (STEPS - 1));
    const image = (share: number): Vec2 | undefined => project(context.camera, toOuter(pose, mix(hair.frog, hair.tip, share)));
    // Only what is in the picture is seen.
    const shares = Array.from({ length: 33 }, (_, k) => k / 32).filter((s) => seen(context.camera, image(s)));
    const [from, to] = [shares[0], shares[shares.length - 1]];
    const frog = image(0);
    const tip = image(1);
    const parallax = (end: Vec3, mid: Vec3) => parallaxOf(context.camera.focal / toOuter(pose, end)[2], slantAt(pose, hair, end), slantAt(pose, middle, mid));
    const slant = Math.max(...[hair.frog, hair.tip].map((end) => Math.abs(slantAt(pose, hair, end))));
    // In the frame in which it is placed its line is known however it lies.
    const line = unit * Math.hypot(SEEN.line, i === MARKED ? 0 : endOnDoubt(slant));
    const a = from === undefined ? undefined : image(from);
    const b = to === undefined ? undefined : image(to);
    return {
      index: i,
      t: i * 0.08,
      pose,
      quality: 0.82,
      sighting: {
        line: a && b && to! - from! > 0.25 ? { a, b, shareA: from!, shareB: to!, sigmaA: line, sigmaB: line } : undefined,
        frog: seen(context.camera, frog) ? { point: frog!, sigma: SEEN.frog * unit, own: SEEN.frog * unit, parallax: parallax(hair.frog, middle.frog) } : undefined,
        tip: seen(context.camera, tip) ? { point: tip!, sigma: SEEN.tip * unit, own: SEEN.tip * unit, parallax: parallax(hair.tip, middle.tip) } : undefined,
        score: 0.8,
      },
    };
  });
}

/** Cosine between the bow and the line of sight to one of its ends, + with the tip farther off. */
function slantAt(pose: Pose, { frog, tip }: HairLine, end: Vec3): number {
  return dot(normalize(subtract(toOuter(pose, tip), toOuter(pose, frog))), normalize(toOuter(pose, end)));
}

const seen = (camera: Camera, p: Vec2 | undefined): boolean => p !== undefined && insidePicture(camera, p, 2);
