import { type Camera, project } from '../../core/geometry/camera';
import { type Pose, toInner, toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { type EdgeSighting, edgePoint, edgeSpan, INSTRUMENT_EDGES, type InstrumentEdge, isStringEdge } from '../../core/instrument/edges';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { robustLine } from '../../core/linalg/robustLine';
import type { Frame } from '../film/frame';
import { sampleLuma } from '../image/gray';
import { bowCover } from './bowCover';
import type { BowInPicture } from './keyFrame';

/** Stations along an edge, and the sideways search about where the marks put it (px at 960 across, ours). */
const STATIONS = 48;
const SEARCH = 3.5;
const PITCH = 0.25;
/** Brightness must change by this many grey levels to count (ours: above compression noise). */
const LEAST_CONTRAST = 5;
/** Share of the stations that must carry an edge. */
const LEAST_SUPPORT = 0.45;
/** Strings nearer each other than this (px at 960 across) cannot be told apart within the marks' error (ours). */
const LEAST_GAP = 5;
/** What a found edge may still be off, px at 960 across, 1 sigma: the drawn line against the true one (ours). */
const FLOOR = 0.3;

interface Rail {
  readonly edge: InstrumentEdge;
  readonly span: readonly [number, number];
  readonly stations: readonly { readonly share: number; readonly point: Vec2; readonly response: Float32Array }[];
  readonly normal: Vec2;
}

/** Search about where a landmark network put them, which errs by more (px at 960 across, ours). */
export const FOUND_SEARCH = 6;

/**
 * Finds strings and edges of the fingerboard, to a fraction of a pixel, near where a solution of the marks
 * puts them. Edges that are covered, blurred or too faint are left out.
 */
export function findEdges(frame: Frame, camera: Camera, model: InstrumentModel, pose: Pose, bow: BowInPicture | undefined, search = SEARCH): EdgeSighting[] {
  const unit = Math.max(frame.width, frame.height) / 960;
  const reach = Math.round(search / PITCH);
  const rails = INSTRUMENT_EDGES.filter((edge) => bordersOnAir(edge, model, pose)).flatMap((edge) => railOf(frame, camera, model, pose, bow, edge, unit, reach) ?? []);
  const strings = rails.filter((r) => isStringEdge(r.edge));
  if (narrowestGap(strings) < LEAST_GAP * unit) return [];
  const found: EdgeSighting[] = [];
  // Strings lie close together: first one shift for all, so that none is taken for its neighbour.
  const shift = strings.length >= 2 ? vote(strings, reach, [0, 0], reach) : undefined;
  for (const rail of rails) {
    const own = isStringEdge(rail.edge) ? shift && vote([rail], reach, shift.at, Math.round(0.75 / PITCH)) : vote([rail], reach, [0, 0], reach);
    const sighting = own && layLine(rail, reach, own.at, unit);
    if (sighting) found.push(sighting);
  }
  return found;
}

/** Least distance (px) between neighbouring strings half way along what is seen of them. */
function narrowestGap(strings: readonly Rail[]): number {
  let least = strings.length >= 2 ? Number.POSITIVE_INFINITY : 0;
  for (let i = 1; i < strings.length; i++) {
    const a = strings[i - 1]!;
    const b = strings[i]!;
    const p = a.stations[a.stations.length >> 1]!.point;
    const q = b.stations[b.stations.length >> 1]!.point;
    least = Math.min(least, Math.abs((q[0] - p[0]) * a.normal[0] + (q[1] - p[1]) * a.normal[1]));
  }
  return least;
}

/** An edge of the fingerboard is sharp only on the far side: on the near one its dark side wall goes on below it. */
function bordersOnAir(edge: InstrumentEdge, model: InstrumentModel, pose: Pose): boolean {
  if (isStringEdge(edge)) return true;
  const eye = toInner(pose, [0, 0, 0]);
  const at = edgePoint(model, edge, model.fingerboardEndX + 40);
  const outward = Math.sign(at[1]);
  return outward * (eye[1] - at[1]) < 0;
}

function railOf(
  frame: Frame,
  camera: Camera,
  model: InstrumentModel,
  pose: Pose,
  bow: BowInPicture | undefined,
  edge: InstrumentEdge,
  unit: number,
  reach: number,
): Rail | undefined {
  const span = edgeSpan(model, edge);
  const first = project(camera, toOuter(pose, edgePoint(model, edge, span[0])));
  const last = project(camera, toOuter(pose, edgePoint(model, edge, span[1])));
  if (!first || !last) return undefined;
  const length = Math.hypot(last[0] - first[0], last[1] - first[1]);
  if (length < 20 * unit) return undefined;
  const u: Vec2 = [(last[0] - first[0]) / length, (last[1] - first[1]) / length];
  const normal: Vec2 = [-u[1], u[0]];
  const covered = bow && bowCover(camera, pose, bow);
  const width = (isStringEdge(edge) ? 1.3 : 1) * unit;
  const stations: Rail['stations'][number][] = [];
  for (let k = 0; k < STATIONS; k++) {
    const share = k / (STATIONS - 1);
    const point = project(camera, toOuter(pose, edgePoint(model, edge, span[0] + (span[1] - span[0]) * share)));
    if (!point) continue;
    if (covered?.(point)) continue;
    const at = (o: number) => {
      let sum = 0;
      for (const a of [-1.5, -0.5, 0.5, 1.5]) {
        sum += sampleLuma(frame.luma, frame.width, frame.height, point[0] + normal[0] * o + u[0] * a * unit, point[1] + normal[1] * o + u[1] * a * unit);
      }
      return sum / 4;
    };
    const response = new Float32Array(2 * reach + 1);
    for (let j = -reach; j <= reach; j++) {
      const o = j * PITCH * unit;
      response[j + reach] = isStringEdge(edge) ? at(o) - (at(o - 2 * width) + at(o + 2 * width)) / 2 : at(o + width) - at(o - width);
    }
    if (response.every((v) => !Number.isNaN(v))) stations.push({ share, point, response });
  }
  return stations.length >= 12 ? { edge, span, stations, normal } : undefined;
}

/** Sideways offsets (samples) of both ends that most stations agree on; brighter and darker lines are tried in turn. */
function vote(rails: readonly Rail[], reach: number, about: readonly [number, number], range: number): { at: [number, number]; score: number } | undefined {
  let best: { at: [number, number]; score: number } | undefined;
  const step = range > 6 ? 2 : 1;
  for (const sign of [1, -1]) {
    for (let d1 = -range; d1 <= range; d1 += step) {
      for (let d2 = -range; d2 <= range; d2 += step) {
        const o1 = about[0] + d1;
        const o2 = about[1] + d2;
        let score = 0;
        for (const rail of rails) {
          for (const s of rail.stations) {
            const o = Math.round(o1 + (o2 - o1) * s.share);
            if (o < -reach || o > reach) continue;
            const r = sign * s.response[o + reach]!;
            if (r > 0) score += Math.min(r, 30);
          }
        }
        // Of equals the nearest to the marks.
        score *= 1 - 0.0004 * (o1 * o1 + o2 * o2);
        if (!best || score > best.score) best = { at: [o1, o2], score };
      }
    }
  }
  return best;
}

/** Robust line through the stations' own peaks near the voted line. */
function layLine(rail: Rail, reach: number, [o1, o2]: readonly [number, number], unit: number): EdgeSighting | undefined {
  let sum = 0;
  for (const s of rail.stations) {
    const o = Math.round(o1 + (o2 - o1) * s.share);
    if (Math.abs(o) <= reach) sum += s.response[o + reach]!;
  }
  const sign = sum >= 0 ? 1 : -1;
  const peaks: { s: number; o: number; w: number }[] = [];
  const near = Math.round(1 / PITCH);
  for (const station of rail.stations) {
    const middle = o1 + (o2 - o1) * station.share;
    let top = 0;
    let at = Number.NaN;
    for (let d = -near; d <= near; d++) {
      const o = Math.round(middle) + d;
      if (o <= -reach || o >= reach) continue;
      const r = sign * station.response[o + reach]!;
      if (r > top) {
        top = r;
        at = o;
      }
    }
    if (!(top > LEAST_CONTRAST) || Math.abs(at - Math.round(middle)) === near) continue;
    const l = sign * station.response[at - 1 + reach]!;
    const h = sign * station.response[at + 1 + reach]!;
    const bend = l - 2 * top + h;
    peaks.push({ s: station.share, o: at + (bend < -1e-6 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - h)) / bend)) : 0), w: Math.min(top, 30) / 30 });
  }
  if (peaks.length < LEAST_SUPPORT * rail.stations.length || peaks.length < 10) return undefined;
  const line = robustLine(peaks, { start: o1, end: o2, spread: 2 }, 0.6);
  const { start: a, end: b, spread: scale } = line;
  const px = PITCH * unit;
  const shares = rail.stations.map((s) => s.share);
  const [s1, s2] = [Math.min(...shares), Math.max(...shares)];
  const place = (s: number): Vec2 => {
    const station = rail.stations.reduce((x, y) => (Math.abs(y.share - s) < Math.abs(x.share - s) ? y : x));
    const o = (a + (b - a) * station.share) * px;
    return [station.point[0] + rail.normal[0] * o, station.point[1] + rail.normal[1] * o];
  };
  // Neighbouring stations err alike: one in three counts.
  const sigma = (s: number) => Math.hypot(FLOOR * unit, px * scale * Math.sqrt(3 * line.varianceAt(s)));
  const at = (s: number) => rail.span[0] + (rail.span[1] - rail.span[0]) * s;
  return { edge: rail.edge, a: place(s1), b: place(s2), sigmaA: sigma(s1), sigmaB: sigma(s2), from: at(s1), to: at(s2) };
}
