import { type BowState, hairLine } from '../../core/bow/bowState';
import { SWITCH_COST } from '../../core/bow/chooseStrings';
import type { BowContext } from '../../core/bow/residuals';
import { type BowSighting, NO_BOW } from '../../core/bow/sighting';
import { solveFrame } from '../../core/bow/solveFrame';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { mix, type Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { type BowStrip, cutStrip, STATIONS, stationShare } from './bowStrip';
import { EndPatch, type EndScale, type FoundEnd } from './endPatch';
import { type BowTemplate, type FoundLine, findLine } from './lineSearch';
import { RunningTemplate } from './runningTemplate';

/** The bow's ends as marked in a frame. A guessed end was hidden and placed by judgement. */
export interface BowMark {
  readonly frog: Vec2 | undefined;
  readonly tip: Vec2 | undefined;
  readonly frogGuessed?: boolean;
  readonly tipGuessed?: boolean;
}

/** State and string the tracker believes in; only a start for the next frame, not a measurement. */
interface Belief {
  readonly state: BowState;
  readonly string: number;
}

/** Samples every half pixel at 960 across. */
const PITCH = 0.5;
/** Sideways search about the prediction, px at 960 across: while all goes well, and after a miss. */
const SEARCH = 12;
const WIDE_SEARCH = 22;
/** Cross sections reach this far to either side of the hair, to take in the stick (mm). */
const TEMPLATE_HALF_MM = 20;
/** Below this share of its usual likeness the bow counts as not seen. */
const MIN_SHARE = 0.5;
const MIN_SCORE = 0.25;
/** Missed frames after which the bow is looked for anew, and between such looks. */
const PATIENCE = 4;
/** Where a bow can be: contact as a share of the string, skew in degrees (ours). */
const BEHIND_BRIDGE = -0.1;
const OVER_FINGERBOARD = 0.36;
const STEEPEST_SKEW = 40;

/** Follows the bow's line and ends through frames in which the instrument's pose is known. */
export class BowTracker {
  private template: BowTemplate | undefined;
  private frogPatch: EndPatch | undefined;
  private tipPatch: EndPatch | undefined;
  /** Running likeness, to know what is usual in this clip. */
  private usual = 0.6;
  private belief: Belief | undefined;
  private before: BowState | undefined;
  private missed = 0;
  /** Bow position at which the ends' looks were last taken in. */
  private learntAt = Number.NaN;

  constructor(private readonly context: BowContext) {}

  /**
   * Learns the bow's look from a frame in which its ends are marked, and returns the four-number state on the
   * likeliest string. Both ends are needed.
   */
  learn(frame: Frame, pose: Pose, mark: { frog: Vec2; tip: Vec2; frogGuessed?: boolean; tipGuessed?: boolean }): Belief {
    const unit = Math.max(frame.width, frame.height) / 960;
    const sighting = sightingOfMark(mark, unit);
    let best: { belief: Belief; cost: number } | undefined;
    for (let string = 0; string < this.context.strings.length; string++) {
      const start: BowState = {
        contact: 0.5 * this.context.strings[0]!.nut[0] * 0.17,
        skew: 0,
        inclination: this.context.levels.natural[string]!,
        position: 0.5,
      };
      const solved = solveFrame(this.context, pose, sighting, string, start);
      if (!best || solved.cost < best.cost) best = { belief: { state: solved.state, string }, cost: solved.cost };
    }
    const belief = best!.belief;
    const stations = this.stations(pose, belief);
    if (stations) {
      const scales = this.scales(pose, belief);
      const middle = (scales.frog.across + scales.tip.across) / 2;
      const half = Math.min(14 * unit, Math.max(5 * unit, TEMPLATE_HALF_MM * middle));
      // The marked line, not the solved one, is where the hair is seen.
      const strip = cutStrip(frame, alongMark(stations, mark), half, PITCH * unit);
      const width = 2 * strip.half + 1;
      const mmPerSample = strip.pitch / middle;
      const look = new RunningTemplate(strip.values, (i) => 1 / (1 + ((((i % width) - strip.half) * mmPerSample) / 12) ** 2));
      this.template = { half: strip.half, look };
      const u = direction(mark.frog, mark.tip);
      if (!mark.frogGuessed) this.frogPatch = EndPatch.cut(frame, mark.frog, u, scales.frog, 'frog');
      if (!mark.tipGuessed) this.tipPatch = EndPatch.cut(frame, mark.tip, u, scales.tip, 'tip');
    }
    this.learntAt = belief.state.position;
    this.startAt(belief);
    return belief;
  }

  startAt(belief: Belief): void {
    this.belief = belief;
    this.before = undefined;
    this.missed = 0;
  }

  /** Where the bow is believed to be in a frame of that pose. */
  inPicture(pose: Pose): { frog: Vec2; tip: Vec2 } | undefined {
    return this.belief && this.ends(pose, this.belief);
  }

  private ends(pose: Pose, belief: Belief): { frog: Vec2; tip: Vec2 } | undefined {
    const line = hairLine(belief.state, this.context.strings[belief.string]!, this.context.hair, this.context.side);
    const frog = project(this.context.camera, toOuter(pose, line.frog));
    const tip = project(this.context.camera, toOuter(pose, line.tip));
    return frog && tip ? { frog, tip } : undefined;
  }

  private stations(pose: Pose, belief: Belief): Vec2[] | undefined {
    const line = hairLine(belief.state, this.context.strings[belief.string]!, this.context.hair, this.context.side);
    const out: Vec2[] = [];
    for (let k = 0; k < STATIONS; k++) {
      const p = project(this.context.camera, toOuter(pose, mix(line.frog, line.tip, stationShare(k))));
      if (!p) return undefined;
      out.push(p);
    }
    return out;
  }

  private scales(pose: Pose, belief: Belief): { frog: EndScale; tip: EndScale } {
    const line = hairLine(belief.state, this.context.strings[belief.string]!, this.context.hair, this.context.side);
    const at = (share: number): EndScale => {
      const p = toOuter(pose, mix(line.frog, line.tip, share));
      const here = project(this.context.camera, p) ?? [0, 0];
      const there = project(this.context.camera, toOuter(pose, mix(line.frog, line.tip, share + 0.01))) ?? [0, 0];
      return { across: this.context.camera.focal / p[2], along: Math.hypot(there[0] - here[0], there[1] - here[1]) / (0.01 * this.context.hair) };
    };
    return { frog: at(0), tip: at(1) };
  }

  /** Looks for the bow in the next frame. */
  follow(frame: Frame, pose: Pose): BowSighting {
    const belief = this.belief;
    if (!belief || !this.template) return NO_BOW;
    const unit = Math.max(frame.width, frame.height) / 960;
    const expected: Belief = { string: belief.string, state: this.predict(belief.state) };
    const lookAnew = this.missed >= PATIENCE && this.missed % PATIENCE === 0;
    const predicted = (lookAnew && this.lookAnew(frame, pose, unit)) || expected;
    const stations = this.stations(pose, predicted);
    const ends = this.ends(pose, predicted);
    if (!stations || !ends) return this.miss();
    const strip = cutStrip(frame, stations, ((this.missed === 0 ? SEARCH : WIDE_SEARCH) + this.template.half * PITCH) * unit, PITCH * unit);
    const wide = 1 + Math.min(3, this.missed);
    const found = findLine(strip, this.template, { frog: 7 * unit * wide, tip: 7 * unit * wide });
    if (!found || found.score < Math.max(MIN_SCORE, MIN_SHARE * this.usual)) return this.miss();

    const u = direction(found.a, found.b);
    const onto = (p: Vec2): Vec2 => {
      const s = (p[0] - found.a[0]) * u[0] + (p[1] - found.a[1]) * u[1];
      return [found.a[0] + u[0] * s, found.a[1] + u[1] * s];
    };
    const state = this.solve(pose, { line: lineOf(found, unit), frog: undefined, tip: undefined, score: found.score }, predicted).state;
    if (!this.plausible(state)) return this.miss();
    const scales = this.scales(pose, predicted);
    const reach = 30 * unit * Math.min(3, wide);
    const frog = this.frogPatch?.find(frame, onto(ends.frog), u, scales.frog, reach);
    const tip = this.tipPatch?.find(frame, onto(ends.tip), u, scales.tip, reach);
    const trusted = (end: FoundEnd | undefined): end is FoundEnd => end !== undefined && ((end.score > 0.5 && end.clear > 0.03) || (end.score > 0.3 && end.clear > 0.12));
    const sighting: BowSighting = {
      line: lineOf(found, unit),
      frog: trusted(frog) ? { point: frog.point, sigma: (4 * unit) / frog.score } : undefined,
      tip: trusted(tip) ? { point: tip.point, sigma: (2.5 * unit) / tip.score } : undefined,
      score: found.score,
    };
    this.usual += 0.05 * (found.score - this.usual);
    if (found.score > 0.7 * this.usual) this.learnLook(frame, strip, found);
    this.believe(this.solve(pose, sighting, predicted));
    // Where the bow rests, its surroundings rest too and would be learnt as part of it.
    const position = this.belief!.state.position;
    if (Math.abs(position - this.learntAt) > 0.015) {
      this.learntAt = position;
      if (trusted(frog) && (frog.score > 0.65 || frog.clear > 0.2)) this.frogPatch!.learn(frame, frog.point, u, scales.frog);
      if (trusted(tip) && (tip.score > 0.65 || tip.clear > 0.2)) this.tipPatch!.learn(frame, tip.point, u, scales.tip);
    }
    return sighting;
  }

  /** Takes the cross sections on the found line into the template. */
  private learnLook(frame: Frame, strip: BowStrip, found: FoundLine): void {
    const template = this.template!;
    const on = strip.stations.map((p, k): Vec2 => {
      const o = found.atFrog + (found.atTip - found.atFrog) * (k / (STATIONS - 1));
      return [p[0] + strip.normal[0] * o, p[1] + strip.normal[1] * o];
    });
    const cross = cutStrip(frame, on, template.half * strip.pitch, strip.pitch);
    template.look.learn(cross.values, 2 * template.half + 1);
  }

  private predict(state: BowState): BowState {
    if (!this.before || this.missed > 0) return state;
    const go = (a: number, b: number, k: number) => a + k * (a - b);
    return {
      contact: go(state.contact, this.before.contact, 0.5),
      skew: go(state.skew, this.before.skew, 0.5),
      inclination: go(state.inclination, this.before.inclination, 0.3),
      position: Math.min(1.02, Math.max(-0.02, go(state.position, this.before.position, 0.95))),
    };
  }

  private miss(): BowSighting {
    this.missed++;
    return NO_BOW;
  }

  /** Most likely string and state for a sighting, near the prediction. */
  private solve(pose: Pose, sighting: BowSighting, predicted: Belief): Belief {
    const loose = 1 + Math.min(4, this.missed);
    let best: { belief: Belief; cost: number } | undefined;
    for (let string = 0; string < this.context.strings.length; string++) {
      const solved = solveFrame(this.context, pose, sighting, string, predicted.state, {
        state: predicted.state,
        sigma: { contact: 8 * loose, skew: 2 * loose, inclination: 5 * loose, position: 0.04 * loose },
      });
      const cost = solved.cost + SWITCH_COST * Math.abs(string - predicted.string);
      if (!best || cost < best.cost) best = { belief: { state: solved.state, string }, cost };
    }
    return best!.belief;
  }

  private believe(belief: Belief): void {
    this.before = this.missed > 0 ? undefined : this.belief!.state;
    this.belief = belief;
    this.missed = 0;
  }

  /** A line far from where a bow can touch the strings is something else: a shelf, a finger, the fingerboard's edge. */
  private plausible(state: BowState): boolean {
    const length = this.context.strings[0]!.nut[0];
    return state.contact > BEHIND_BRIDGE * length && state.contact < OVER_FINGERBOARD * length && Math.abs(state.skew) < STEEPEST_SKEW;
  }

  /** After a loss: tries lines over the strip on every string and takes the one that looks most like the bow. */
  private lookAnew(frame: Frame, pose: Pose, unit: number): Belief | undefined {
    const template = this.template!;
    let best: { belief: Belief; score: number } | undefined;
    for (let string = 0; string < this.context.strings.length; string++) {
      for (const skew of [-14, 0, 14]) {
        const state: BowState = { contact: 0.09 * this.context.strings[0]!.nut[0], skew, inclination: this.context.levels.natural[string]!, position: this.belief!.state.position };
        const belief: Belief = { state, string };
        const stations = this.stations(pose, belief);
        if (!stations) continue;
        const strip = cutStrip(frame, stations, (WIDE_SEARCH + template.half * PITCH) * unit, PITCH * unit);
        const found = findLine(strip, template, { frog: 30 * unit, tip: 30 * unit });
        if (found && found.score > (best?.score ?? Math.max(MIN_SCORE, MIN_SHARE * this.usual))) {
          const solved = solveFrame(this.context, pose, { line: lineOf(found, unit), frog: undefined, tip: undefined, score: found.score }, string, state);
          if (this.plausible(solved.state)) best = { belief: { state: solved.state, string }, score: found.score };
        }
      }
    }
    return best?.belief;
  }
}

function lineOf(found: FoundLine, unit: number): NonNullable<BowSighting['line']> {
  return { a: found.a, b: found.b, sigmaA: Math.hypot(found.sigmaFrog, 0.35 * unit), sigmaB: Math.hypot(found.sigmaTip, 0.35 * unit) };
}

function direction(a: Vec2, b: Vec2): Vec2 {
  const n = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  return [(b[0] - a[0]) / n, (b[1] - a[1]) / n];
}

/** Stations moved sideways onto the marked line. */
function alongMark(stations: readonly Vec2[], mark: { frog: Vec2; tip: Vec2 }): Vec2[] {
  const u = direction(mark.frog, mark.tip);
  return stations.map((p) => {
    const s = (p[0] - mark.frog[0]) * u[0] + (p[1] - mark.frog[1]) * u[1];
    return [mark.frog[0] + u[0] * s, mark.frog[1] + u[1] * s];
  });
}

/** A mark read as a sighting: the line through both ends, each end as sure as it was placed. */
export function sightingOfMark(mark: { frog: Vec2; tip: Vec2; frogGuessed?: boolean; tipGuessed?: boolean }, unit: number): BowSighting {
  const sigma = 0.8 * unit;
  return {
    line: { a: mark.frog, b: mark.tip, sigmaA: mark.frogGuessed ? 1.5 * sigma : sigma, sigmaB: mark.tipGuessed ? 1.5 * sigma : sigma },
    frog: { point: mark.frog, sigma: mark.frogGuessed ? 6 * unit : sigma },
    tip: { point: mark.tip, sigma: mark.tipGuessed ? 6 * unit : sigma },
    score: 1,
  };
}
