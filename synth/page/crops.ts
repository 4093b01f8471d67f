import { insidePicture, project } from '../../src/core/geometry/camera';
import { toOuter } from '../../src/core/geometry/pose';
import type { Vec2 } from '../../src/core/geometry/vec3';
import { INSTRUMENT_LANDMARKS } from '../../src/core/instrument/landmarks';
import { seededRandom } from '../../src/core/random';
import { playerRegion, type Region } from '../../src/core/start/playerRegion';
import { Phone } from '../camera/phone';
import { jointsAt } from '../figure/joints';
import { UNLIKE, variedPlace, variedScenario } from '../presets/variety';
import type { Held, Stage } from '../render/stage';
import { namedPoints } from '../truth/truth';

/** One square picture about the instrument, with where its points lie. */
export interface LabelledCrop {
  readonly picture: string;
  readonly family: string;
  /** Without a bowed instrument there is nothing to be found. */
  readonly held: Held;
  /** Whether only the body of the instrument is shown. */
  readonly near: boolean;
  readonly view: string;
  /** Whether the room was drawn; without it the picture is transparent there. */
  readonly room: boolean;
  /** Middle and side of the region that a body network would point at, in pixels of the crop. */
  readonly region: { readonly middle: Vec2; readonly side: number };
  /** Name, place in pixels of the crop and whether it can be seen. */
  readonly points: readonly (readonly [name: string, u: number, v: number, seen: 0 | 1])[];
}

const POINTS: ReadonlySet<string> = new Set([...INSTRUMENT_LANDMARKS, 'bow.frog', 'bow.tip']);
/** Crops reach beyond what a network is shown, so that training may shift and turn within them: of the player's region, and of the box about the instrument (least, most). */
const REACH = 1.75;
const BOX_REACH = [1.7, 2.6] as const;

/** From this seed on the body of the instrument is looked at from close by (least and most of its box). */
export const FROM_CLOSE = 5_000;
const CLOSE_REACH = [0.8, 1.5] as const;
/** From this seed on players hold something else, or nothing: what a network must leave alone. */
export const EMPTY_HANDED = 10_000;

/** What the n-th picture of a player shows; of players with unlike instruments each kind now and then. */
function kindOf(seed: number, n: number): { readonly held: Held; readonly near: boolean } {
  if (seed >= UNLIKE) return { held: n % 14 === 6 ? 'plucked' : n % 14 === 12 ? 'nothing' : 'bowed', near: n % 7 === 3 };
  if (seed >= EMPTY_HANDED) return { held: n % 3 === 0 ? 'nothing' : 'plucked', near: false };
  return { held: 'bowed', near: seed >= FROM_CLOSE };
}

/** Pictures of one varied player from several places. */
export async function labelledCrops(
  stageOf: (seed: number, pixels: number) => Stage,
  seed: number,
  count: number,
  pixels: number,
  encode: (canvas: OffscreenCanvas) => Promise<string>,
): Promise<LabelledCrop[]> {
  const stage = stageOf(seed, pixels);
  const scenario = variedScenario(seed);
  const random = seededRandom(seed * 31_337 + 9);
  const out: LabelledCrop[] = [];
  for (let n = 0; n < count; n++) {
    const place = variedPlace(seed, n);
    const moment = stage.performance.at(random() * stage.performance.duration);
    const phone = new Phone({ ...scenario, view: place.view, fieldOfView: place.fieldOfView, shake: 0 }, stage.performance.stature, moment, place);
    const eye = phone.poseAt(moment.t);
    const joints = jointsAt(moment, stage.build, stage.performance.stature, scenario.posture);
    const seen = (room: readonly [number, number, number]) => project(phone.camera, toOuter(eye, room));
    const places = namedPoints(moment, joints, stage.build, stage.performance.stature).map(({ name, room }) => ({ name, room, at: seen(room) }));
    const joint = new Map(places.flatMap(({ name, at }) => (at ? [[name, at] as const] : [])));
    const region = playerRegion((name) => joint.get(name), scenario.family);
    if (!region) continue;
    const box = boxAbout(places.flatMap(({ name, at }) => (at && name.startsWith('instrument.') ? [at] : [])));
    const { held, near } = kindOf(seed, n);
    const body = boxAbout(places.flatMap(({ name, at }) => (at && name.startsWith('instrument.') && !/scroll|nut/.test(name) ? [at] : [])));
    const within = ([least, most]: readonly [number, number]) => least + random() * (most - least);
    const about = !box || !body ? undefined : near ? { middle: body.middle, side: box.side * within(CLOSE_REACH) } : { middle: box.middle, side: box.side * within(BOX_REACH) };
    const shown = about && (near || n % 2 === 1) ? about : { middle: region.middle, side: REACH * region.side };
    const side = shown.side * (0.9 + 0.2 * random());
    const left = shown.middle[0] - side / 2 + (random() - 0.5) * 0.14 * side;
    const top = shown.middle[1] - side / 2 + (random() - 0.5) * 0.14 * side;
    stage.hold(held);
    const room = random() < 0.55;
    stage.showRoom(room);
    stage.cut(phone, { left, top, side });
    stage.pose(moment, phone);
    const picture = await encode(stage.shoot(room));
    stage.lookAround();
    const k = pixels / side;
    const inCrop = ([u, v]: Vec2): Vec2 => [k * (u - left), k * (v - top)];
    const points = places.flatMap(({ name, room: point, at }) => {
      if (!POINTS.has(name) || !at) return [];
      const [u, v] = inCrop(at);
      return [[name, round(u), round(v), insidePicture({ focal: 1, width: pixels, height: pixels }, [u, v]) && stage.sees(point) ? 1 : 0] as const];
    });
    // Hidden as a whole, say behind a wall of the room: nothing can be learnt from it.
    if (held === 'bowed' && !points.some(([name, , , seen]) => seen && name.startsWith('instrument.'))) continue;
    out.push({ picture, family: scenario.family, held, near, view: place.view, room, region: { middle: inCrop(region.middle), side: k * region.side }, points });
  }
  stage.dispose();
  return out;
}

function boxAbout(points: readonly Vec2[]): Region | undefined {
  if (points.length === 0) return undefined;
  const [left, right] = extent(points.map((p) => p[0]));
  const [top, bottom] = extent(points.map((p) => p[1]));
  return { middle: [(left + right) / 2, (top + bottom) / 2], side: Math.max(right - left, bottom - top) };
}

const extent = (values: readonly number[]): readonly [number, number] => [Math.min(...values), Math.max(...values)];
const round = (x: number): number => Math.round(100 * x) / 100;
