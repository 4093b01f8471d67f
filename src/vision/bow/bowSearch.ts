import { type BowOnString, type BowState, hairLine } from '../../core/bow/bowState';
import { type BowContext, CONTACT_SIGMA, MID_STRIP, SKEW_SIGMA } from '../../core/bow/residuals';
import { type KnownEnd, stateOnLine } from '../../core/bow/stateOnLine';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { mix, type Vec2 } from '../../core/geometry/vec3';
import { onString } from '../../core/instrument/strings';
import type { Frame } from '../film/frame';
import { HAIR_WIDTH_MM, HAND_COVERS, STICK_HEIGHTS_MM, STICK_WIDTH_MM, stickHeight } from './bowShape';
import { cutStrip, STATIONS, stationShare } from './bowStrip';
import { hairEnds, hairStations } from './hairInPicture';
import { straightenHair } from './straightenHair';
import { StripSums } from './stripSums';

/** A line of the picture that may be the bow, with the ends of the hair it means. */
export interface BowHypothesis extends BowOnString {
  readonly frog: Vec2;
  readonly tip: Vec2;
  /** How much hair and stick are seen along it; about 0 by chance, 1 for a clear bow. */
  readonly score: number;
}

/** Contacts tried, share of the string length from the bridge (ours: the strip, a little behind the bridge and over the fingerboard). */
const CONTACTS = [-0.03, 0.33] as const;
const STEEPEST_SKEW = 38;
/** How far beyond the end of the hair the contact may seem to lie (share of the hair, ours). */
const MOST_OFF = 0.35;
/** Neighbouring lines tried lie about this far apart at the far end (px at 960 across). */
const FINENESS = 0.7;
/**
 * Looks for the bow in a frame in which one end of its hair is known, over all lines through that end that
 * cross the strings where a bow can. Best first, at most `count`, clearly different lines only.
 */
export function searchBow(frame: Frame, pose: Pose, context: BowContext, end: KnownEnd, count = 5): BowHypothesis[] {
  const unit = Math.max(frame.width, frame.height) / 960;
  const length = context.strings[0]!.nut[0];
  // Angles of the pencil of lines through the known end.
  const toward = (string: number, share: number) => project(context.camera, toOuter(pose, onString(context.strings[string]!, share * length)));
  const corners = context.strings.flatMap((_, s) => CONTACTS.map((c) => toward(s, c))).filter((p) => p !== undefined);
  if (corners.length < 2) return [];
  const reference = Math.atan2(corners[0]![1] - end.point[1], corners[0]![0] - end.point[0]);
  const turned = corners.map((p) => {
    const a = Math.atan2(p[1] - end.point[1], p[0] - end.point[0]) - reference;
    return a - 2 * Math.PI * Math.round(a / (2 * Math.PI));
  });
  const [from, to] = [Math.min(...turned), Math.max(...turned)];
  const far = Math.max(...corners.map((p) => Math.hypot(p[0] - end.point[0], p[1] - end.point[1])), 100 * unit);
  const steps = Math.min(1200, Math.max(2, Math.ceil(((to - from) * 1.3 * far) / (FINENESS * unit))));
  const scored: BowHypothesis[] = [];
  for (let k = 0; k <= steps; k++) {
    const angle = reference + from + ((to - from) * k) / steps;
    const other: Vec2 = [end.point[0] + far * Math.cos(angle), end.point[1] + far * Math.sin(angle)];
    const line: [Vec2, Vec2] = end.which === 'tip' ? [other, end.point] : [end.point, other];
    const best = likeliest(context, pose, line, end, length);
    if (!best) continue;
    const hypothesis = weigh(frame, pose, context, best.state, best.string, end, unit);
    if (hypothesis) scored.push(hypothesis);
  }
  scored.sort((a, b) => b.score - a.score);
  const kept: BowHypothesis[] = [];
  const farEnd = (h: BowHypothesis) => (end.which === 'tip' ? h.frog : h.tip);
  for (const h of scored) {
    if (kept.length >= count) break;
    if (kept.every((other) => Math.hypot(farEnd(other)[0] - farEnd(h)[0], farEnd(other)[1] - farEnd(h)[1]) > 6 * unit)) kept.push(h);
  }
  return kept.map((h) => refine(frame, pose, context, h, end, length, unit));
}

/** Turns the line about its known end onto the middle of the hair, to a fraction of a pixel. */
function refine(frame: Frame, pose: Pose, context: BowContext, h: BowHypothesis, end: KnownEnd, length: number, unit: number): BowHypothesis {
  const stations = hairStations(pose, context, h);
  if (!stations) return h;
  const reach = 5 * unit;
  const strip = cutStrip(frame, stations.points, reach + 12 * unit, 0.25 * unit);
  const sums = new StripSums(strip);
  const lever = (k: number) => (end.which === 'tip' ? 1 - stationShare(k) : stationShare(k));
  let best = { turn: 0, value: Number.NEGATIVE_INFINITY };
  const values: number[] = [];
  const turns = Math.round(reach / strip.pitch);
  for (let turn = -turns; turn <= turns; turn++) {
    let sum = 0;
    for (let k = 0; k < STATIONS; k++) {
      if (stationShare(k) <= HAND_COVERS) continue;
      sum += sums.band(k, turn * lever(k), Math.max(0.8 * unit, (HAIR_WIDTH_MM / 2) * stations.scale[k]!) / strip.pitch);
    }
    values.push(sum);
    if (sum > best.value) best = { turn, value: sum };
  }
  const at = best.turn + turns;
  if (at === 0 || at === values.length - 1) return h;
  const [l, m, r] = [values[at - 1]!, values[at]!, values[at + 1]!];
  const bend = l - 2 * m + r;
  const offset = (best.turn + (bend < 0 ? (0.5 * (l - r)) / bend : 0)) * strip.pitch;
  const moved = (p: Vec2): Vec2 => [p[0] + strip.normal[0] * offset, p[1] + strip.normal[1] * offset];
  const line: [Vec2, Vec2] = end.which === 'tip' ? [moved(h.frog), end.point] : [end.point, moved(h.tip)];
  const found = likeliest(context, pose, line, end, length);
  const ends = found && hairEnds(pose, context, found);
  if (!ends) return h;
  return { ...h, state: found.state, string: found.string, frog: end.which === 'frog' ? end.point : ends.frog, tip: end.which === 'tip' ? end.point : ends.tip };
}

/** The string on which a bow along this line would lie most squarely and most nearly in the strip. */
function likeliest(context: BowContext, pose: Pose, line: readonly [Vec2, Vec2], end: KnownEnd, length: number) {
  let best: { state: BowState; string: number; cost: number } | undefined;
  for (let string = 0; string < context.strings.length; string++) {
    const state = stateOnLine(context, pose, line, string, context.levels.natural[string]!, end);
    if (!state || Math.abs(state.skew) > STEEPEST_SKEW) continue;
    if (state.contact < CONTACTS[0] * length || state.contact > CONTACTS[1] * length) continue;
    // Seen nearly end on, a little tilt moves the unseen end by much: off the hair counts against it, not out.
    const position = Math.min(0.98, Math.max(0.02, state.position));
    const off = state.position - position;
    if (Math.abs(off) > MOST_OFF) continue;
    const cost = (state.skew / SKEW_SIGMA) ** 2 + ((state.contact / length - MID_STRIP) / CONTACT_SIGMA) ** 2 + (off / 0.1) ** 2;
    if (!best || cost < best.cost) best = { state: { ...state, position }, string, cost };
  }
  return best;
}

/** Steps of the search without a known end: contact as a share of the string, skew in degrees. */
const CONTACT_STEP = 0.02;
const SKEW_STEP = 1.5;
const WIDEST_SKEW = 36;
/** A whole bow found without any mark must look this much like one; from the second on no other level is tried (ours). */
const LEAST_WHOLE = 1;
export const CLEAR_WHOLE = 1.5;
/** Places along twice the hair's length, contact in the middle, at which hair and stick are looked for. */
const LONG = 96;

/**
 * Looks for the bow in a frame in which nothing of it is known: every line over the strip near square is tried,
 * and along it the stretch of one hair's length that looks most like a bow against what lies beyond.
 */
export function searchWholeBow(frame: Frame, pose: Pose, context: BowContext): BowHypothesis | undefined {
  const unit = Math.max(frame.width, frame.height) / 960;
  const length = context.strings[0]!.nut[0];
  let best: BowHypothesis | undefined;
  const tryLevel = (inclination: number) => {
    for (let contact = CONTACTS[0] * length; contact <= 0.25 * length; contact += CONTACT_STEP * length) {
      for (let skew = -WIDEST_SKEW; skew <= WIDEST_SKEW; skew += SKEW_STEP) {
        const found = alongLine(frame, pose, context, { contact, skew, inclination, position: 0.5 }, 1, unit);
        if (found && found.score > (best?.score ?? LEAST_WHOLE)) best = found;
      }
    }
  };
  // Tilted or turned, the bow is mostly seen along the same lines: the middle level often stands for all.
  tryLevel(0);
  if (!best || best.score < CLEAR_WHOLE) for (const level of [context.levels.natural[0]!, context.levels.natural[3]!]) tryLevel(level);
  if (!best) return undefined;
  best = straightenHair(frame, pose, context, best);
  // The line in the picture stands; which string it lies on is asked anew.
  const named = likeliest(context, pose, [best.frog, best.tip], { which: 'tip', point: best.tip }, length);
  const ends = named && hairEnds(pose, context, named);
  return named && ends ? { ...best, state: named.state, string: named.string, frog: ends.frog } : best;
}

/** The hair's length along one line in space that looks most like a bow. */
function alongLine(frame: Frame, pose: Pose, context: BowContext, state: BowState, string: number, unit: number): BowHypothesis | undefined {
  const both = { ...context, hair: 2 * context.hair };
  const line = hairLine(state, context.strings[string]!, both.hair, context.side);
  const points: Vec2[] = [];
  const scale = new Float64Array(LONG);
  for (let k = 0; k < LONG; k++) {
    const p = toOuter(pose, mix(line.frog, line.tip, k / (LONG - 1)));
    const image = project(context.camera, p);
    if (!image) return undefined;
    points.push(image);
    scale[k] = context.camera.focal / p[2];
  }
  const strip = cutStrip(frame, points, (STICK_HEIGHTS_MM[0] + 8) * Math.max(...scale), 0.75 * unit);
  const sums = new StripSums(strip);
  const known = points.map((_, k) => !Number.isNaN(strip.values[k * (2 * strip.half + 1)]!) && !Number.isNaN(strip.values[(k + 1) * (2 * strip.half + 1) - 1]!));
  const hair = points.map((_, k) => (known[k] ? sums.ridge(k, 0, Math.max(0.8 * unit, (HAIR_WIDTH_MM / 2) * scale[k]!) / strip.pitch) : 0));
  let best: { start: number; score: number } | undefined;
  const half = LONG >> 1;
  for (let lean = -0.9; lean <= 0.91; lean += 0.3) {
    const evidence = hair.map((h, k) => {
      if (!known[k]) return 0;
      // Along the search the place on the hair is not known yet: the stick's mean height will do.
      return Math.max(0, h) - sums.ridge(k, (lean * 15 * scale[k]!) / strip.pitch, Math.max(0.8 * unit, (STICK_WIDTH_MM / 2) * scale[k]!) / strip.pitch);
    });
    const evidences = [0];
    for (const e of evidence) evidences.push(evidences[evidences.length - 1]! + e);
    for (let start = 1; start < half; start++) {
      const inside = (evidences[start + half]! - evidences[start]!) / half;
      const beyond = (evidences[start]! - evidences[Math.max(0, start - 8)]! + evidences[Math.min(LONG, start + half + 8)]! - evidences[start + half]!) / 16;
      const score = inside - 0.5 * Math.max(0, beyond) - 0.05 * (state.skew / SKEW_SIGMA) ** 2;
      if (!best || score > best.score) best = { start, score };
    }
  }
  if (!best) return undefined;
  const at = (k: number) => points[Math.min(LONG - 1, k)]!;
  return { frog: at(best.start), tip: at(best.start + half - 1), state: { ...state, position: (half - best.start) / half }, string, score: best.score };
}

/** How much hair and stick are seen along a bow in space. The stick may stand to either side of the hair, as the bow is tilted and seen. */
function weigh(frame: Frame, pose: Pose, context: BowContext, state: BowState, string: number, end: KnownEnd, unit: number): BowHypothesis | undefined {
  const ends = hairEnds(pose, context, { state, string });
  const places = hairStations(pose, context, { state, string });
  if (!ends || !places || Math.hypot(ends.frog[0] - ends.tip[0], ends.frog[1] - ends.tip[1]) < 40 * unit) return undefined;
  const { points: stations, scale } = places;
  const widest = Math.max(...scale);
  const strip = cutStrip(frame, stations, (Math.max(...STICK_HEIGHTS_MM) + 8) * widest, 0.5 * unit);
  const sums = new StripSums(strip);
  const used: number[] = [];
  for (let k = 0; k < STATIONS; k++) if (stationShare(k) > HAND_COVERS && !Number.isNaN(strip.values[k * (2 * strip.half + 1)]!)) used.push(k);
  if (used.length < 16) return undefined;
  let hair = 0;
  for (const k of used) hair += sums.ridge(k, 0, Math.max(0.8 * unit, (HAIR_WIDTH_MM / 2) * scale[k]!) / strip.pitch);
  hair /= used.length;
  let stick = 0;
  for (let lean = -1; lean <= 1.001; lean += 0.1) {
    if (Math.abs(lean) < 0.15) continue;
    let sum = 0;
    for (const k of used) {
      const at = (lean * stickHeight(stationShare(k)) * scale[k]!) / strip.pitch;
      sum -= sums.ridge(k, at, Math.max(0.8 * unit, (STICK_WIDTH_MM / 2) * scale[k]!) / strip.pitch);
    }
    stick = Math.max(stick, sum / used.length);
  }
  const prior = 0.05 * (state.skew / SKEW_SIGMA) ** 2;
  return { frog: end.which === 'frog' ? end.point : ends.frog, tip: end.which === 'tip' ? end.point : ends.tip, state, string, score: Math.max(0, hair) + stick - prior };
}
