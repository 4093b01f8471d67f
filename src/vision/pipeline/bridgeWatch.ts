import { hairEndsOf } from '../../core/bow/sighting';
import { type Camera, project, ray } from '../../core/geometry/camera';
import { type Pose, stepInside, toInner, toOuter } from '../../core/geometry/pose';
import { rotateBack } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { type BridgeStrip, bridgeEdge } from '../../core/instrument/bridgeEdge';
import { bridgeInPicture } from '../../core/instrument/bridgeInPicture';
import { farEdge, STRIP, stripPitch, stripPlace } from '../../core/instrument/bridgeTop';
import type { Dimensions } from '../../core/instrument/dimensions';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { type BridgePlace, bridgeSigma, seatBridge } from '../../core/instrument/seatBridge';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import type { Frame } from '../film/frame';
import { spaced } from '../film/spaced';
import { sampleLuma } from '../image/gray';
import { bowCover } from '../instrument/bowCover';
import type { BowInPicture } from '../instrument/keyFrame';

/** The bridge is looked at in so many frames of a film at most, and so far apart at least (seconds). */
const MOST = 60;
const EVERY = 0.12;
/** Brightness is compared over at least so much to either side (mm of a full-size violin; px at 960 across). */
const ARM_MM = 1;
const ARM_PX = 0.8;
/** The edge in the picture against the notches' middle: bridges are cut differently (mm of a full-size violin), and an edge lies by so much beside where it is seen (px at 960 across; ours). */
const CUT_SIGMA = 0.6;
const EDGE_SIGMA = 0.15;
/** Where a millimetre along the strings is less than this (px at 960 across) the edge is not told from its neighbours (ours). */
const LEAST_PX_PER_MM = 0.24;
/** An eye nearer to over the bridge than this (sine) sees both edges of its top. */
const LEAST_ASIDE = 0.15;
/** Further from where the marks have it (sigmas of both together) something else would be taken for the bridge (ours). */
const FURTHEST = 2.2;

interface Seen {
  readonly pose: Pose;
  readonly light: BridgeStrip;
}

/** Looks at the top of the bridge while an instrument is followed: what a single picture, marked or not, shows to a millimetre or two, many together show to half of one. */
export class BridgeWatch {
  private readonly wanted: ReadonlySet<number>;
  private readonly seen = new Map<number, Seen>();

  constructor(
    private readonly solution: MarksSolution,
    private readonly dimensions: Dimensions,
    times: Float64Array,
  ) {
    const every = Math.max(EVERY, (times.at(-1) ?? 0) / MOST);
    this.wanted = new Set(spaced([...times.keys()], (i) => times[i]!, every));
  }

  /** A frame with the instrument as it was followed. */
  see(frame: Frame, pose: Pose): void {
    if (!this.wanted.has(frame.index)) return;
    const { camera, model } = this.solution;
    const light = new Float32Array(STRIP.rows * STRIP.columns);
    eachCell((cell, row, column) => {
      const image = project(camera, toOuter(pose, stripPlace(model, row, column)));
      light[cell] = image ? sampleLuma(frame.luma, frame.width, frame.height, image[0], image[1]) : Number.NaN;
    });
    this.seen.set(frame.index, { pose, light });
  }

  /** Solution and frames with the bridge where the film shows it; as they were where it does not. */
  seat(tracked: readonly TrackedFrame[]): { readonly solution: MarksSolution; readonly tracked: readonly TrackedFrame[] } {
    const place = this.place(tracked);
    if (!place) return { solution: this.solution, tracked };
    const { solution, step } = seatBridge(this.solution, this.dimensions, place);
    return { solution, tracked: tracked.map((frame) => (frame.pose ? { ...frame, pose: stepInside(frame.pose, step) } : frame)) };
  }

  private place(tracked: readonly TrackedFrame[]): BridgePlace | undefined {
    const { camera, model } = this.solution;
    const strips = tracked.flatMap(({ index, pose, sighting }) => {
      const seen = this.seen.get(index);
      const bow = hairEndsOf(sighting);
      return seen && pose && bow ? [{ pose, free: freeOfBow(asPosed(seen, pose, camera, model), pose, camera, model, bow) }] : [];
    });
    if (strips.length === 0) return undefined;
    const side = sideOf(strips.map((s) => s.pose));
    const unit = Math.max(camera.width, camera.height) / 960;
    const { scale } = model.frame;
    const pxPerMm = (bridgeInPicture(camera, strips[strips.length >> 1]!.pose)?.pxPerMm ?? 0) / unit;
    if (Math.abs(side) < LEAST_ASIDE || !(pxPerMm > LEAST_PX_PER_MM)) return undefined;
    const pitch = stripPitch(model);
    const sigma = Math.hypot(CUT_SIGMA * scale, EDGE_SIGMA / pxPerMm);
    const arm = Math.round(Math.max(ARM_MM * scale, ARM_PX / pxPerMm) / pitch);
    const edge = bridgeEdge(
      strips.map((s) => s.free),
      arm,
      farEdge(model, side) / pitch,
      (FURTHEST * Math.hypot(bridgeSigma(this.solution), sigma)) / pitch,
    );
    return edge && { along: edge.off * pitch, sigma };
  }
}

function eachCell(visit: (cell: number, row: number, column: number) => void): void {
  for (let row = 0; row < STRIP.rows; row++) for (let column = 0; column < STRIP.columns; column++) visit(row * STRIP.columns + column, row, column);
}

/** The strip as it lies with the instrument's final pose: moved along the strings by what the bridge moved in the picture. */
function asPosed({ pose: followed, light }: Seen, pose: Pose, camera: Camera, model: InstrumentModel): BridgeStrip {
  const bridge = project(camera, followed.translation);
  const shift = bridge ? alongAt(camera, pose, bridge) / stripPitch(model) : 0;
  const out = new Float32Array(light.length);
  eachCell((cell, row, column) => {
    const from = column - shift;
    const low = Math.floor(from);
    const at = (c: number) => (c >= 0 && c < STRIP.columns ? light[row * STRIP.columns + c]! : Number.NaN);
    out[cell] = from === low ? at(low) : at(low) + (at(low + 1) - at(low)) * (from - low);
  });
  return out;
}

/** The strip without what the bow covers. */
function freeOfBow(light: BridgeStrip, pose: Pose, camera: Camera, model: InstrumentModel, bow: BowInPicture): BridgeStrip {
  const covered = bowCover(camera, pose, bow);
  const out = light.slice();
  eachCell((cell, row, column) => {
    const image = project(camera, toOuter(pose, stripPlace(model, row, column)));
    if (image && covered(image)) out[cell] = Number.NaN;
  });
  return out;
}

/** How far (mm) along the strings a place of the picture lies in the plane of the strings. */
function alongAt(camera: Camera, pose: Pose, image: Vec2): number {
  const eye = toInner(pose, [0, 0, 0]);
  const [x, , z] = rotateBack(pose.rotation, ray(camera, image));
  return eye[0] - (eye[2] / z) * x;
}

/** On which side of the bridge the eye stands: sine of the angle from over it, + toward the nut. */
function sideOf(poses: readonly Pose[]): number {
  const sides = poses.map((pose) => {
    const eye = toInner(pose, [0, 0, 0]);
    return eye[0] / Math.hypot(...eye);
  });
  return sides.sort((a, b) => a - b)[sides.length >> 1]!;
}
