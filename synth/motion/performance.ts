import { type BowState, hairLine } from '../../src/core/bow/bowState';
import { type Pose, toOuter } from '../../src/core/geometry/pose';
import { fromAxes, rotate } from '../../src/core/geometry/rotation';
import { add, addScaled, cross, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { bodyPoint } from '../../src/core/instrument/body';
import { type Family, sideSign } from '../../src/core/instrument/family';
import { type StringLevels, type StringLine, stringLevels, stringLines } from '../../src/core/instrument/strings';
import { seededRandom } from '../../src/core/random';
import { chestShift } from '../figure/posture';
import type { InstrumentBuild } from '../instrument/build';
import type { Scenario, StrokeSpec } from '../presets/scenario';
import { type Note, pitchOf, type StrayNote } from '../sound/score';
import { touchOf } from '../sound/touch';
import { courseAt, minimumJerk, strokeWay, wander } from './course';
import { AT_REST, bowOnItsWay, type HeldBow, hangingBow, type Readiness, raised, readinessAt, readyHolds, readyLength } from './ready';

/** What the player does at one moment. Room frame: x to the player's left, y behind the player, z up, mm. */
export interface Moment {
  readonly t: number;
  /** Instrument in the room. */
  readonly instrument: Pose;
  readonly bow: BowState;
  readonly string: number;
  /** Undefined while the bow changes over between strings. */
  readonly soundingString: number | undefined;
  readonly frog: Vec3;
  readonly tip: Vec3;
  readonly contact: Vec3;
  /** mm/s, + down-bow. */
  readonly speed: number;
  /** How far the player is ready to play; numbers of the bow mean something where it is on the string. */
  readonly ready: Readiness;
  /** Away from the strings, or from where they would be: square to the bow. */
  readonly bowOff: Vec3;
  readonly bodyShift: Vec3;
  /** Torso turned about the vertical, degrees, + to the left. */
  readonly torsoTurn: number;
  readonly headingToTorso: number;
  /** The bow's ends at the moment the arm is at: behind the bow where the arm is late. */
  readonly armFrog: Vec3;
  readonly armTip: Vec3;
  /** How far the stick leans from over the hair away from the hand, radians. */
  readonly stickLean: number;
  /** 0 the lids open .. 1 shut. */
  readonly blink: number;
  /** -1 breathed out .. 1 breathed in. */
  readonly breath: number;
  /** How far each finger of the left hand is down on its string, 0..1. */
  readonly pressed: readonly number[];
  /** How much the bow is pressed beyond what its speed bears, 0..1. */
  readonly press: number;
}

/** Height of the standing player by size, mm (from memory, growth tables; rounded). */
export function statureOf(size: string, family: Family = 'violin'): number {
  if (family === 'cello') return { '4/4': 1680, '3/4': 1530, '1/2': 1400, '1/4': 1260 }[size] ?? 1600;

  return { '4/4': 1700, '3/4': 1470, '1/2': 1300, '1/4': 1160, '1/8': 1050, '16"': 1740, '15"': 1640, '14"': 1500 }[size] ?? 1600;
}

/** A slower bow only rubs (mm/s, ours). */
export const CREEP = 12;
/** A bow pressed into the string before it moves crunches until it has so much time behind it (seconds to a third, ours). */
const CRUNCH = 0.05;
/** A neighbour is heard from this share of the bow's weight on, for so long (seconds; ours). */
const AUDIBLE_TOUCH = 0.1;
const LEAST_STRAY = 0.08;

/** A whole performance: strokes, sway and every quantity as functions of time. */
export class Performance {
  readonly strings: StringLine[];
  readonly levels: StringLevels;
  readonly duration: number;
  readonly stature: number;
  private readonly side: 1 | -1;
  private readonly starts: number[] = [];
  private readonly sways: ((t: number) => number)[];
  private readonly trembles: ((t: number) => number)[];
  private readonly blinks: number[] = [];

  constructor(
    private readonly scenario: Scenario,
    private readonly build: InstrumentBuild,
  ) {
    this.strings = stringLines(build.model, scenario.family);
    this.levels = stringLevels(build.model, scenario.family);
    this.side = sideSign(scenario.family);
    this.stature = scenario.stature ?? statureOf(scenario.size, scenario.family);
    let t = 0.12 + readyLength(scenario.ready);
    for (const stroke of scenario.strokes) {
      this.starts.push(t);
      t += stroke.seconds + stroke.rest;
    }
    this.duration = t + 0.1;
    const random = seededRandom(scenario.seed * 101 + 3);
    this.sways = Array.from({ length: 8 }, () => wander(random, 0.12, 0.5));
    this.trembles = Array.from({ length: 5 }, () => wander(random, 0.3, 1.6));
    for (let t = 1 + 2 * random(); t < this.duration; t += 2 + 3 * random()) this.blinks.push(t);
  }

  /** Stroke under way at t, and how much of it is done (0..1). */
  private strokeAt(t: number): { index: number; stroke: StrokeSpec; done: number } {
    let index = 0;
    while (index + 1 < this.starts.length && t >= this.starts[index + 1]!) index++;
    const stroke = this.scenario.strokes[index]!;
    return { index, stroke, done: (t - this.starts[index]!) / stroke.seconds };
  }

  private positionAt(t: number): number {
    const { stroke, done } = this.strokeAt(t);
    const [a, b] = stroke.direction === 'down' ? stroke.part : [stroke.part[1], stroke.part[0]];
    return a + (b - a) * strokeWay(done, stroke.squeezed, stroke.stalls);
  }

  /** How far the bow is astray, share of the strip: the second stroke of three leaves, the third comes back at its end. */
  private strayAt(index: number, done: number): number {
    const { contactStray } = this.scenario;
    const share = index % 3 === 1 ? minimumJerk(done / 0.6) : index % 3 === 2 ? 1 - minimumJerk((done - 0.7) / 0.3) : 0;
    return contactStray * share;
  }

  /** How the instrument was held, as it was meant. */
  holds() {
    const { ready } = this.scenario;
    return ready ? readyHolds(ready, this.duration) : [];
  }

  /** Hz of the note under way. */
  pitchAt(t: number): number {
    return pitchOf(this.scenario.family, this.strokeAt(t).stroke);
  }

  /** When each bow begins, seconds. */
  turns(): readonly number[] {
    return this.starts;
  }

  /** The notes as they were meant, one a stroke, from when the bow goes fast enough to be heard. */
  notes(): Note[] {
    return this.scenario.strokes.map((stroke, i) => ({
      from: this.heardFrom(i),
      to: this.starts[i]! + stroke.seconds,
      string: this.strings[stroke.string]!.name,
      finger: stroke.finger ?? 0,
      hz: pitchOf(this.scenario.family, stroke),
    }));
  }

  /** When a stroke's bow has begun to sound. */
  private heardFrom(index: number): number {
    const start = this.starts[index]!;
    const end = start + this.scenario.strokes[index]!.seconds;
    for (let t = start; t < end; t += 0.002) if (Math.abs(this.speedAt(t)) >= CREEP) return t;
    return start;
  }

  private speedAt(t: number): number {
    return ((this.positionAt(t + 0.005) - this.positionAt(t - 0.005)) / 0.01) * this.build.hair;
  }

  /**
   * Strings that sound beside the one meant, outside of the crossings: where the hair lies on a neighbour too for at
   * least {@link LEAST_STRAY} seconds.
   */
  strays(): StrayNote[] {
    const out: StrayNote[] = [];
    const step = 0.01;
    const running = this.strings.map((): number | undefined => undefined);
    for (let t = 0; t <= this.duration + step; t += step) {
      const m = this.at(Math.min(t, this.duration));
      const sounds = t <= this.duration && m.soundingString !== undefined && Math.abs(m.speed) > 40;
      const touch = touchOf(this.levels, m.bow.inclination);
      this.strings.forEach(({ name }, s) => {
        const stray = sounds && s !== m.string && touch[s]! > AUDIBLE_TOUCH;
        const from = running[s];
        if (stray && from === undefined) running[s] = t;
        if (!stray && from !== undefined) {
          if (t - from >= LEAST_STRAY) out.push({ from, to: t, string: name });
          running[s] = undefined;
        }
      });
    }
    return out.sort((a, b) => a.from - b.from);
  }

  /** The first moment in mid-bow. */
  get middle(): Moment {
    let t = readyLength(this.scenario.ready);
    while (t < this.duration && Math.abs(this.positionAt(t) - 0.45) > 0.03) t += 0.02;
    return this.at(t < this.duration ? t : 0);
  }

  /** How far the lids are shut, a quarter of a second a blink. */
  private blinkAt(t: number): number {
    const near = this.blinks.find((b) => t >= b && t < b + 0.26);
    return near === undefined ? 0 : Math.sin((Math.PI * (t - near)) / 0.26) ** 2;
  }

  /** Fingers of the left hand: the finger a stroke asks for and those before it are down. */
  private pressedAt(t: number): number[] {
    const { index, stroke } = this.strokeAt(t);
    const before = this.scenario.strokes[index - 1] ?? stroke;
    const share = minimumJerk((t - this.starts[index]! + 0.05) / 0.1);
    return [1, 2, 3, 4].map((finger) => {
      const down = (s: StrokeSpec) => ((s.finger ?? 0) >= finger ? 1 : 0);
      return down(before) + (down(stroke) - down(before)) * share;
    });
  }

  /** What is left at t of the pressure a stroke began with. */
  private pressAt(t: number): number {
    const { index, stroke } = this.strokeAt(t);
    const since = t - this.starts[index]!;
    return since < 0 ? 0 : (stroke.pressedStart ?? 0) * Math.exp(-since / CRUNCH);
  }

  at(t: number): Moment {
    const now = this.bowAt(t);
    const lag = this.scenario.posture.elbowLag;
    const arm = lag === 0 ? now : this.bowAt(Math.max(0, t - lag));
    return {
      ...now,
      armFrog: arm.frog,
      armTip: arm.tip,
      stickLean: 0.3 * this.side,
      blink: this.blinkAt(t),
      breath: Math.sin(2 * Math.PI * 0.28 * t),
      pressed: this.pressedAt(t),
      press: this.pressAt(t),
    };
  }

  private bowAt(t: number): Omit<Moment, 'armFrog' | 'armTip' | 'stickLean' | 'blink' | 'breath' | 'pressed' | 'press'> {
    const s = this.scenario;
    const { index, stroke, done } = this.strokeAt(t);
    const position = this.positionAt(t) + 0.002 * s.wander * this.trembles[3]!(t);
    // Level: from the old string's to this one's within 0.12 s about the change.
    const change = this.starts[index]!;
    const previous = index > 0 ? s.strokes[index - 1]!.string : stroke.string;
    const share = previous === stroke.string ? 1 : minimumJerk((t - (change - 0.04)) / 0.14);
    const natural = this.levels.natural[previous]! + (this.levels.natural[stroke.string]! - this.levels.natural[previous]!) * share;
    const jump = s.contactJump * ((index % 2) - (1 - minimumJerk((t - change + 0.04) / 0.1)) * (2 * (index % 2) - 1));
    const bow: BowState = {
      contact: (courseAt(s.contact, position) + jump + this.strayAt(index, done)) * this.build.model.fingerboardEndX + 0.5 * s.wander * this.trembles[0]!(t),
      skew: courseAt(s.skew, position) + 0.45 * s.wander * this.trembles[1]!(t),
      inclination: natural + courseAt(s.levelOffset, position) + 0.5 * s.wander * this.trembles[2]!(t),
      position,
    };
    const sway = s.sway;
    const k = this.stature / 1700;
    const bodyShift: Vec3 = [sway * 18 * this.sways[0]!(t), sway * 10 * this.sways[1]!(t), sway * 3 * this.sways[2]!(t)];
    const torsoTurn = sway * 2 * this.sways[3]!(t);
    const swing = s.instrumentSwing * (2 * Math.min(1, Math.max(0, position)) - 1);
    const ready = readinessAt(s.ready, t);
    const raisedTo = (rest: number, playing: number) => rest + (playing - rest) * ready.lifted;
    const heading = raisedTo(AT_REST.heading, s.heading) + swing + sway * 1.5 * this.sways[4]!(t);
    const pitch = raisedTo(AT_REST.pitch, s.pitch) + sway * 1.2 * this.sways[5]!(t);
    const roll = raisedTo(AT_REST.roll, s.roll) + sway * 1.5 * this.sways[6]!(t);
    // What is held at the shoulder goes with the chest.
    const carried = this.build.endpin > 0 ? bodyShift : add(bodyShift, chestShift(s.posture, this.stature, torsoTurn * RADIANS));
    const instrument = this.placeInstrument(heading + torsoTurn, pitch, roll, carried, k, ready.lifted);
    const line = hairLine(bow, this.strings[stroke.string]!, this.build.hair, this.side);
    const room = (p: Vec3): Vec3 => toOuter(instrument, p);
    const [playingFrog, playingTip] = [room(line.frog), room(line.tip)];
    const along = normalize(subtract(playingTip, playingFrog));
    const plate = rotate(instrument.rotation, [0, 0, 1]);
    const playing: HeldBow = { frog: playingFrog, along, off: normalize(addScaled(plate, along, -dot(plate, along))) };
    const hanging = hangingBow(ready.lifted, this.stature);
    const held = ready.onString === 1 ? playing : bowOnItsWay(ready.onString, { ...hanging, frog: add(hanging.frog, bodyShift) }, playing, this.stature);
    return {
      t,
      instrument,
      bow,
      string: stroke.string,
      soundingString: ready.onString < 1 || (share > 0.05 && share < 0.95) ? undefined : stroke.string,
      ready,
      frog: held.frog,
      tip: ready.onString === 1 ? playingTip : addScaled(held.frog, held.along, this.build.hair),
      bowOff: held.off,
      contact: room(line.contact),
      speed: this.speedAt(t),
      bodyShift,
      torsoTurn,
      headingToTorso: heading,
    };
  }

  /** The lower end of the body rests a little left of and before the throat, the strings point to `heading`. */
  private placeInstrument(heading: number, pitch: number, roll: number, shift: Vec3, k: number, lifted: number): Pose {
    const h = heading * RADIANS;
    const p = pitch * RADIANS;
    const r = roll * RADIANS;
    const flat: Vec3 = [Math.sin(h), -Math.cos(h), 0];
    const x: Vec3 = add(scale(flat, Math.cos(p)), [0, 0, Math.sin(p)]);
    const level = cross([0, 0, 1], flat);
    const up = cross(x, level);
    const y = addScaled(scale(level, Math.cos(r)), up, Math.sin(r));
    const rotation = fromAxes(x, y);
    // A cello's upper back edge leans on the breastbone, its pin on the floor.
    const cello = this.build.endpin > 0;
    const end = cello ? bodyPoint(this.build.model.frame, 185, 0, -this.build.model.frame.ribs) : this.build.model.landmarks['instrument.tailpieceEnd'];
    const rest: Vec3 = cello
      ? add([46 * k, -150 * k, 0.505 * this.stature + this.scenario.posture.seatHeight * k], scale(shift, 0.6))
      : add(raised(lifted, [22 * k, -78 * k, 0.843 * this.stature], this.stature), shift);
    return { rotation, translation: subtract(rest, rotate(rotation, end)) };
  }
}
