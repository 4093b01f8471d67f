import { type BowState, hairLine } from '../../core/bow/bowState';
import { SWITCH_COST } from '../../core/bow/chooseStrings';
import { PLAYABLE, passesBy } from '../../core/bow/passesBy';
import { type BowContext, MID_STRIP } from '../../core/bow/residuals';
import { DEPTH_SIGMA } from '../../core/bow/sharedEnds';
import { type BowSighting, type EndSighting, NO_BOW } from '../../core/bow/sighting';
import { solveFrame } from '../../core/bow/solveFrame';
import { bothInSight, placedInSight, SURE_ENDS, type UnsureEnds } from '../../core/bow/unsureEnds';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { addScaled, cross, dot, mix, normalize, subtract, type Vec2, type Vec3 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { agreeingEnds, CLEARLY_BETTER, type EndLikeness } from './agreeingEnds';
import { BowExtent } from './bowExtent';
import { type BowStrip, cutStrip, STATIONS } from './bowStrip';
import { EndPatch, type EndScale, type FoundEnd } from './endPatch';
import { hairEnds, hairStations } from './hairInPicture';
import { hairMiddle, type RibbonView } from './hairMiddle';
import { type BowTemplate, type FoundLine, findLine, GAPS } from './lineSearch';
import { type Belief, beliefFromEnds, type WholeBow } from './markedBow';
import { withMistakes } from './mistakes';
import { RunningTemplate } from './runningTemplate';

/** Samples every half pixel at 960 across. */
const PITCH = 0.5;
/** Sideways search about the prediction, px at 960 across: while all goes well, and after a miss. */
const SEARCH = 12;
const WIDE_SEARCH = 22;
/** Cross sections reach this far to either side of the hair, to take in the stick (mm). */
const TEMPLATE_HALF_MM = 20;
/** Below this share of its usual likeness the bow counts as not seen. */
const MIN_SHARE = 0.55;
/** Less like itself than this share of the usual, the bow is looked for on the other strings too. */
const WEAK_SHARE = 0.8;
/** A bow found anew must look more like itself than one that was never lost. */
const REGAIN_SHARE = 0.65;
const MIN_SCORE = 0.25;
/** An end that looks wholly like itself is found to so many px at 960 across (1 sigma, ours). */
const OWN_ERROR = { frog: 4, tip: 2.5 } as const;
/** Height of the stick over the hair in mid-bow, and how far beside the hair it must be seen to leave it free (mm; from memory, and ours). */
const STICK_MM = 12;
const STICK_APART_MM = 8;
/** How far the line may be off sideways at an end that was marked, and at one placed by guess or looked for (px at 960 across; ours). */
const MARKED_LINE = 0.8;
const GUESSED_LINE = 3;
/** and where no hair shows beside the guess (px at 960 across; ours: bows that point at the camera behind the hand were guessed off by 4 to 10). */
const UNSEEN_LINE = 8;
/** Half the width of the hair (mm; common practice, no source: about a centimetre of ribbon). */
const HAIR_HALF_MM = 5;
/** Less like itself than this the line of a bow may be that of something else: nothing is said of its hair (ours). */
const HAIR_SEEN = 0.55;
/** A line is not the same bow's when an end of it lies so far aside: the hair's width, in a small bow so many px at 960 across (ours). */
const ELSEWHERE = { hair: 2 * HAIR_HALF_MM, least: 4 } as const;
/** Frames without either end in sight after which the bow is also tried further along its line, by how much (share of the hair), and how much better it must look there (ours). */
const BLIND = 3;
/** As if neither end had been in sight for so many frames: the ends are looked for about a quarter of the hair to either side (ours). */
const BLIND_START = 6;
const RUN_ON = [-0.12, -0.06, 0.06, 0.12] as const;
const RUN_ON_GAIN = 0.02;
/** Frames between two looks at every scale of the cross sections. */
const GAP_EVERY = 4;
/** Likeness that an end outside the picture counts (ours). */
const UNSEEN_END = 0.4;
/** Frames with one end alone between two looks elsewhere along the line (ours). */
const ALONE_EVERY = 4;
/** So little bow inside a lone tip, or so much beyond it, calls for such a look at once (see {@link BowExtent}; ours). */
const DOUBTFUL_TIP = 0.25;
/** An end so much clearer than the next best place is not questioned for being alone (ours). */
const DISTINCT = 0.3;
/** A mistaken end is taken back for at most so many frames (ours). */
const MOST_MISTAKEN = 10;
/** Steps of such a look, share of the hair (ours). */
const ALONG_STEP = 0.008;
/** A place found so that is nearer than this share of the hair is the same one (ours). */
const LEAST_MOVE = 0.03;
/** Missed frames after which the bow is looked for anew, and between such looks. */
const PATIENCE = 4;
/** Further from square than this no bow plays, degrees (ours). */
const STEEPEST_SKEW = 40;

/** Follows the bow's line and ends through frames in which the instrument's pose is known. */
export class BowTracker {
  private template: BowTemplate | undefined;
  /** How much the stick stands before the hair in the picture, 0 apart .. 1 wholly: what is seen then is not the hair's middle. */
  private hairHidden = 0;
  /** Whether the hair itself was seen since the last mark. */
  private hairSeen = false;
  private frogPatch: EndPatch | undefined;
  private tipPatch: EndPatch | undefined;
  /** An end placed by guess moves with the bow all the same, but where on the bow it is stays unsure. */
  private unsure: UnsureEnds = SURE_ENDS;
  /** Running likeness, to know what is usual in this clip. */
  private usual = 0.6;
  private belief: Belief | undefined;
  private before: BowState | undefined;
  private missed = 0;
  /** Scale of the cross sections that fitted last. */
  private gap = 1;
  /** Frames since an end of the bow was last recognised. */
  private blind = 0;
  /** Frames since both ends were recognised together. */
  private alone = 0;
  /** How many of the sightings before the last one had something else for an end of the bow, as the last one showed. */
  mistaken = 0;
  /** Bow position at which the ends' looks were last taken in. */
  private learntAt = Number.NaN;
  /** The frame in which the bow was placed last. */
  private placedIn = Number.NaN;

  constructor(private readonly context: BowContext) {}

  /**
   * Learns the bow's look from a frame in which its ends are marked, and returns the four-number state on the
   * likeliest string. Both ends are needed.
   */
  learn(frame: Frame, pose: Pose, mark: WholeBow): Belief {
    const unit = Math.max(frame.width, frame.height) / 960;
    const belief = beliefFromEnds(this.context, pose, mark, unit);
    const stations = hairStations(pose, this.context, belief)?.points;
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
      this.hairHidden = Math.max(0, 1 - Math.abs(this.besideHair(pose, belief)?.stick ?? 0) / STICK_APART_MM);
      this.hairSeen = false;
      const u = direction(mark.frog, mark.tip);
      this.frogPatch = EndPatch.cut(frame, mark.frog, u, scales.frog, 'frog');
      this.tipPatch = EndPatch.cut(frame, mark.tip, u, scales.tip, 'tip');
      this.unsure = mark.unsure ?? SURE_ENDS;
    }
    this.learntAt = belief.state.position;
    this.placedIn = frame.index;
    this.startAt(belief);
    return belief;
  }

  /** How far (px, 1 sigma) the lines found since the last mark may be off sideways by the mark's own error, at frog and tip. */
  markSigma(unit: number): { frog: number; tip: number } {
    // A guess at a place where no hair shows either: nobody has seen the line.
    const guess = this.hairSeen ? GUESSED_LINE : UNSEEN_LINE;
    const of = (unsure: number) => (placedInSight(unsure) ? MARKED_LINE * (1 + 1.5 * this.hairHidden) : guess) * unit;
    return { frog: of(this.unsure.frog), tip: of(this.unsure.tip) };
  }

  /** `alongUnsure`: the line is known, but how far along it the bow lies only roughly. */
  startAt(belief: Belief, alongUnsure = false): void {
    this.belief = belief;
    this.before = undefined;
    this.missed = 0;
    this.blind = alongUnsure ? BLIND_START : 0;
    this.alone = 0;
    this.gap = 1;
  }

  /** Where the bow is believed to be in a frame of that pose. */
  inPicture(pose: Pose): { frog: Vec2; tip: Vec2 } | undefined {
    return this.belief && hairEnds(pose, this.context, this.belief);
  }

  /** How far (mm) to the left (-) or right of the middle of the hair the stick is seen in mid-bow, were it upright over the strings, and the edge of the hair; undefined where the bow reaches behind the camera. */
  private besideHair(pose: Pose, belief: Belief): { stick: number; edge: number } | undefined {
    const line = hairLine(belief.state, this.context.strings[belief.string]!, this.context.hair, this.context.side);
    const b = normalize(subtract(line.tip, line.frog));
    const up = normalize(addScaled([0, 0, 1], b, -b[2]));
    const middle = mix(line.frog, line.tip, 0.5);
    const seen = (p: Vec3) => project(this.context.camera, toOuter(pose, p));
    const [frog, tip, hair, stick, edge] = [line.frog, line.tip, middle, addScaled(middle, up, STICK_MM), addScaled(middle, cross(up, b), HAIR_HALF_MM)].map(seen);
    if (!frog || !tip || !hair || !stick || !edge) return undefined;
    const u = direction(frog, tip);
    const pxPerMm = this.context.camera.focal / toOuter(pose, middle)[2];
    const aside = (p: Vec2) => ((p[1] - hair[1]) * u[0] - (p[0] - hair[0]) * u[1]) / pxPerMm;
    return { stick: aside(stick), edge: aside(edge) };
  }

  private ribbonView(pose: Pose, belief: Belief): RibbonView | undefined {
    const beside = this.besideHair(pose, belief);
    const { frog, tip } = this.scales(pose, belief);
    return beside && { half: Math.abs(beside.edge), stickSide: beside.stick < 0 ? -1 : 1, scale: { frog: frog.across, tip: tip.across } };
  }

  private scales(pose: Pose, belief: Belief): { frog: EndScale; tip: EndScale } {
    const line = hairLine(belief.state, this.context.strings[belief.string]!, this.context.hair, this.context.side);
    const at = (share: number): EndScale => {
      const p = toOuter(pose, mix(line.frog, line.tip, share));
      const here = project(this.context.camera, p) ?? [0, 0];
      const further = toOuter(pose, mix(line.frog, line.tip, share + 0.01));
      const there = project(this.context.camera, further) ?? [0, 0];
      return {
        across: this.context.camera.focal / p[2],
        along: Math.hypot(there[0] - here[0], there[1] - here[1]) / (0.01 * this.context.hair),
        slant: dot(normalize(subtract(further, p)), normalize(p)),
      };
    };
    return { frog: at(0), tip: at(1) };
  }

  /** Looks for the bow in the next frame. */
  follow(frame: Frame, pose: Pose): BowSighting {
    const belief = this.belief;
    this.mistaken = 0;
    if (!belief || !this.template) return NO_BOW;
    const unit = Math.max(frame.width, frame.height) / 960;
    const expected: Belief = { string: belief.string, state: this.predict(belief.state) };
    const reach = this.missed === 0 ? SEARCH : WIDE_SEARCH;
    const wide = 1 + Math.min(3, this.missed);
    let seen = this.look(frame, pose, expected, reach, 7 * wide);
    if (this.blind > BLIND) seen = this.lookAlong(frame, pose, expected, reach, 7 * wide, seen);
    if (!seen || seen.found.score < WEAK_SHARE * this.usual) {
      const other = this.lookOnOtherStrings(frame, pose, expected);
      if (other && other.found.score > 1.1 * (seen?.found.score ?? 0)) seen = other;
    }
    if (seen && seen.found.score < Math.max(MIN_SCORE, MIN_SHARE * this.usual)) seen = undefined;
    if (!seen && this.missed >= PATIENCE && this.missed % PATIENCE === 0) {
      const anew = this.lookAnew(frame, pose);
      seen = anew && this.look(frame, pose, anew, SEARCH, 7);
    }
    if (!seen) return this.miss();
    const { predicted, ends, strip, found } = seen;

    const u = direction(found.a, found.b);
    const onto = (p: Vec2): Vec2 => {
      const s = (p[0] - found.a[0]) * u[0] + (p[1] - found.a[1]) * u[1];
      return [found.a[0] + u[0] * s, found.a[1] + u[1] * s];
    };
    const state = this.solve(pose, { line: lineOf(found, unit), frog: undefined, tip: undefined, score: found.score }, predicted).state;
    if (!this.plausible(state)) return this.miss();
    const scales = this.scales(pose, predicted);
    // While neither end shows, the bow may go far along its own line.
    const along = 30 * unit * Math.min(8, Math.max(wide, 1 + this.blind / 2));
    const expectedAt = { frog: onto(ends.frog), tip: onto(ends.tip) };
    let seenExtent: BowExtent | undefined;
    const extent = () => {
      seenExtent ??= new BowExtent(frame, expectedAt, this.template!, strip.pitch);
      return seenExtent;
    };
    const tipExtent = (place: Vec2) => extent().tipAt(place, scales.tip.along);
    const likeness: EndLikeness = (which, place) => {
      const alike = (which === 'frog' ? this.frogPatch : this.tipPatch)?.likenessAt(frame, place, u, scales[which]) ?? UNSEEN_END;
      return which === 'frog' ? alike : alike + tipExtent(place);
    };
    const lookFor = (at: { frog: Vec2; tip: Vec2 }, reach: number) =>
      agreeingEnds(
        { frog: this.frogPatch?.find(frame, at.frog, u, scales.frog, reach), tip: this.tipPatch?.find(frame, at.tip, u, scales.tip, reach) },
        { at, u, scales, unsure: this.unsure },
        likeness,
      );
    let { frog, tip } = lookFor(expectedAt, along);
    let start = predicted;
    // One end alone may be something that rests behind the bow: now and then the whole bow is tried elsewhere along its line.
    this.alone = frog && tip ? 0 : this.alone + 1;
    const doubtful = tip !== undefined && this.alone > 0 && tipExtent(tip.point) < DOUBTFUL_TIP;
    const distinct = Math.max(frog?.clear ?? 0, tip?.clear ?? 0) > DISTINCT;
    if (doubtful || (!distinct && this.alone % ALONE_EVERY === 1)) {
      const better = this.betterAlong(pose, predicted, onto, { frog, tip }, likeness);
      if (better) {
        ({ frog, tip } = lookFor(better.ends, 12 * unit));
        this.mistaken = Math.min(MOST_MISTAKEN, this.alone - 1);
        start = { ...predicted, state: { ...predicted.state, position: better.position } };
      }
    }
    const across = this.crossSections(frame, strip, found);
    const ribbon = found.score > HAIR_SEEN ? this.ribbonView(pose, predicted) : undefined;
    const hair = ribbon && hairMiddle(across, ribbon, unit);
    this.hairSeen ||= hair !== undefined;
    const sighting: BowSighting = {
      line: lineOf(found, unit),
      frog: frog && this.endSighting('frog', frog, scales.frog, unit),
      tip: tip && this.endSighting('tip', tip, scales.tip, unit),
      hair,
      lengthKnown: bothInSight(this.unsure),
      score: found.score,
    };
    this.gap = found.gap;
    this.blind = frog || tip ? 0 : this.blind + 1;
    this.usual += (found.score > this.usual ? 0.05 : 0.02) * (found.score - this.usual);
    if (found.score > 0.7 * this.usual) this.template.look.learn(across.values, 2 * across.half + 1);
    this.believe(this.solve(pose, sighting, start));
    // Where the bow rests, its surroundings rest too and would be learnt as part of it.
    const position = this.belief!.state.position;
    if (Math.abs(position - this.learntAt) > 0.015) {
      this.learntAt = position;
      if (frog && (frog.score > 0.65 || frog.clear > 0.2)) this.frogPatch!.learn(frame, frog.point, u, scales.frog);
      if (tip && (tip.score > 0.65 || tip.clear > 0.2)) this.tipPatch!.learn(frame, tip.point, u, scales.tip);
    }
    const slant = Math.max(Math.abs(scales.frog.slant), Math.abs(scales.tip.slant));
    return withMistakes(sighting, { slant, placed: frame.index === this.placedIn, passedBy: passesBy(this.context, pose, found.a, found.b) ?? 0, rival: found.rival, unit });
  }

  private endSighting(which: 'frog' | 'tip', { point, score }: FoundEnd, scale: EndScale, unit: number): EndSighting {
    const parallax = (which === 'frog' ? this.frogPatch : this.tipPatch)!.parallax(scale);
    const own = (OWN_ERROR[which] * unit) / score;
    const guess = this.unsure[which] * unit;
    return { point, own, parallax, guess, sigma: Math.hypot(own, DEPTH_SIGMA[which] * parallax, guess) };
  }

  /**
   * Bow position at which the whole bow, moved along its line, looks clearly more like itself than where `seen` puts
   * it, and its ends there; undefined where there is none.
   */
  private betterAlong(
    pose: Pose,
    predicted: Belief,
    onto: (p: Vec2) => Vec2,
    seen: { frog: FoundEnd | undefined; tip: FoundEnd | undefined },
    likeness: EndLikeness,
  ): { position: number; ends: { frog: Vec2; tip: Vec2 } } | undefined {
    const endsAt = (position: number) => {
      const ends = hairEnds(pose, this.context, { ...predicted, state: { ...predicted.state, position } });
      return ends && { frog: onto(ends.frog), tip: onto(ends.tip) };
    };
    const tries: { position: number; ends: { frog: Vec2; tip: Vec2 }; value: number }[] = [];
    for (let position = -0.02; position <= 1.02; position += ALONG_STEP) {
      const ends = endsAt(position);
      if (ends) tries.push({ position, ends, value: likeness('frog', ends.frog) + likeness('tip', ends.tip) });
    }
    const away = (t: (typeof tries)[number]) =>
      seen.frog ? distance(t.ends.frog, seen.frog.point) : seen.tip ? distance(t.ends.tip, seen.tip.point) : Math.abs(t.position - predicted.state.position);
    if (tries.length === 0) return undefined;
    const here = tries.reduce((a, b) => (away(b) < away(a) ? b : a));
    const best = tries.reduce((a, b) => (b.value > a.value ? b : a));
    return best.value > here.value + 2 * CLEARLY_BETTER && Math.abs(best.position - here.position) > LEAST_MOVE ? best : undefined;
  }

  /** The bow's line near where a belief puts it; `reach` and `expected` (1 sigma at each end) in px at 960 across. */
  private look(frame: Frame, pose: Pose, predicted: Belief, reach: number, expected: number) {
    const unit = Math.max(frame.width, frame.height) / 960;
    const stations = hairStations(pose, this.context, predicted)?.points;
    const ends = hairEnds(pose, this.context, predicted);
    if (!stations || !ends) return undefined;
    const strip = cutStrip(frame, stations, (reach + this.template!.half * PITCH) * unit, PITCH * unit);
    // The scale changes slowly: mostly the last one will do.
    const gaps = this.missed === 0 && frame.index % GAP_EVERY !== 0 ? [this.gap] : GAPS;
    const { frog, tip } = this.scales(pose, predicted);
    const elsewhere = Math.max(ELSEWHERE.least * unit, (ELSEWHERE.hair * (frog.across + tip.across)) / 2);
    const found = findLine(strip, this.template!, { frog: expected * unit, tip: expected * unit }, elsewhere, gaps);
    return found && { predicted, ends, strip, found };
  }

  /** With neither end in sight for long the bow may have run on: tries it further on and further back, where hand and end of the bow would lie elsewhere. */
  private lookAlong(frame: Frame, pose: Pose, expected: Belief, reach: number, sigma: number, first: ReturnType<BowTracker['look']>) {
    let best = first;
    for (const step of RUN_ON) {
      const position = expected.state.position + step;
      if (position < 0 || position > 1) continue;
      const seen = this.look(frame, pose, { ...expected, state: { ...expected.state, position } }, reach, sigma);
      if (seen && seen.found.score > (best ? best.found.score + RUN_ON_GAIN : 0)) best = seen;
    }
    return best;
  }

  /** A change of string tilts the bow within a frame or two further than it is looked for: tries the level of every other string. */
  private lookOnOtherStrings(frame: Frame, pose: Pose, expected: Belief) {
    let best: ReturnType<BowTracker['look']>;
    for (let string = 0; string < this.context.strings.length; string++) {
      if (string === expected.string) continue;
      const state = { ...expected.state, inclination: this.context.levels.natural[string]! };
      const seen = this.look(frame, pose, { string, state }, WIDE_SEARCH, 12);
      if (seen && seen.found.score > Math.max(MIN_SCORE, REGAIN_SHARE * this.usual, best?.found.score ?? 0)) best = seen;
    }
    return best;
  }

  /** Cross sections about the found line, as wide as the bow's look. */
  private crossSections(frame: Frame, strip: BowStrip, found: FoundLine): BowStrip {
    const on = strip.stations.map((p, k): Vec2 => {
      const o = found.atFrog + (found.atTip - found.atFrog) * (k / (STATIONS - 1));
      return [p[0] + strip.normal[0] * o, p[1] + strip.normal[1] * o];
    });
    return cutStrip(frame, on, this.template!.half * strip.pitch, strip.pitch);
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
    return state.contact > PLAYABLE.from * length && state.contact < PLAYABLE.to * length && Math.abs(state.skew) < STEEPEST_SKEW;
  }

  /** After a loss: tries lines over the strip on every string and takes the one that looks most like the bow. */
  private lookAnew(frame: Frame, pose: Pose): Belief | undefined {
    const unit = Math.max(frame.width, frame.height) / 960;
    let best: { belief: Belief; score: number } | undefined;
    const here = this.belief!.state.position;
    const positions = [here, ...[0.15, 0.4, 0.65, 0.9].filter((p) => Math.abs(p - here) > 0.15)];
    const contact = MID_STRIP * this.context.strings[0]!.nut[0];
    for (let string = 0; string < this.context.strings.length; string++) {
      const inclination = this.context.levels.natural[string]!;
      const tries = [...positions.map((position) => ({ position, skew: 0 })), { position: here, skew: -14 }, { position: here, skew: 14 }];
      for (const { position, skew } of tries) {
        const state: BowState = { contact, skew, inclination, position };
        const found = this.look(frame, pose, { state, string }, WIDE_SEARCH, 30)?.found;
        if (!found || found.score < (best?.score ?? Math.max(MIN_SCORE, REGAIN_SHARE * this.usual))) continue;
        const solved = solveFrame(this.context, pose, { line: lineOf(found, unit), frog: undefined, tip: undefined, score: found.score }, string, state);
        if (this.plausible(solved.state)) best = { belief: { state: solved.state, string }, score: found.score };
      }
    }
    return best?.belief;
  }
}

/** Stations moved sideways onto the marked line. */
function alongMark(stations: readonly Vec2[], mark: { frog: Vec2; tip: Vec2 }): Vec2[] {
  const u = direction(mark.frog, mark.tip);
  return stations.map((p) => {
    const s = (p[0] - mark.frog[0]) * u[0] + (p[1] - mark.frog[1]) * u[1];
    return [mark.frog[0] + u[0] * s, mark.frog[1] + u[1] * s];
  });
}

function lineOf(found: FoundLine, unit: number): NonNullable<BowSighting['line']> {
  return { a: found.a, b: found.b, shareA: found.shareA, shareB: found.shareB, sigmaA: Math.hypot(found.sigmaFrog, 0.35 * unit), sigmaB: Math.hypot(found.sigmaTip, 0.35 * unit) };
}

const distance = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

function direction(a: Vec2, b: Vec2): Vec2 {
  const n = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  return [(b[0] - a[0]) / n, (b[1] - a[1]) / n];
}
