import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec3 } from '../geometry/vec3';
import { bodyPoint, RIM } from './body';
import type { InstrumentModel } from './landmarks';
import { archAt, halfOutline } from './outline';

/** Surface of the instrument as triangles in the instrument frame (mm). Good to a few millimetres: what tells depth apart, not what is drawn. */
export interface Relief {
  readonly vertices: readonly Vec3[];
  /** Vertex numbers, three a triangle. */
  readonly triangles: Uint16Array;
}

class Builder {
  vertices: Vec3[] = [];
  faces: number[] = [];
  vertex(p: Vec3): number {
    return this.vertices.push(p) - 1;
  }
  /** Joins two rows of vertices of the same length. */
  band(a: readonly number[], b: readonly number[]): void {
    for (let i = 1; i < a.length; i++) {
      this.faces.push(a[i - 1]!, b[i - 1]!, a[i]!, a[i]!, b[i - 1]!, b[i]!);
    }
  }
}

/** Builds plate, ribs, fingerboard with neck, pegbox, bridge and tailpiece. */
export function buildRelief(model: InstrumentModel): Relief {
  const b = new Builder();
  const { frame } = model;
  const k = frame.scale;
  const lm = model.landmarks;

  // Plate: rows from one edge to the other, following the outline from the upper to the lower end.
  const outline = halfOutline(3);
  const across = [-1, -0.85, -0.6, -0.3, 0, 0.3, 0.6, 0.85, 1];
  const rows = outline.map(([u, w]) =>
    across.map((a) => {
      const y = a * Math.max(w, 1);
      return b.vertex(bodyPoint(frame, u, y, Math.abs(a) === 1 ? RIM : archAt(u, y)));
    }),
  );
  for (let i = 1; i < rows.length; i++) b.band(rows[i - 1]!, rows[i]!);
  for (const side of [-1, 1]) {
    const top = outline.map(([u, w]) => b.vertex(bodyPoint(frame, u, side * Math.max(w, 1), RIM)));
    const low = outline.map(([u, w]) => b.vertex(bodyPoint(frame, u, side * Math.max(w - 2.5, 1), -frame.ribs)));
    b.band(top, low);
  }

  // Fingerboard: an arched strip from its free end to the nut, with the neck's depth below.
  const stripRow = (x: number) => {
    const t = (x - model.fingerboardEndX) / (model.stringLength - model.fingerboardEndX);
    const [low, high] = [lm['instrument.fingerboardEnd.low'], lm['instrument.fingerboardEnd.high']];
    const [nutLow, nutHigh] = [lm['instrument.nut.low'], lm['instrument.nut.high']];
    const at = (a: Vec3, c: Vec3): Vec3 => [x, a[1] + (c[1] - a[1]) * t, a[2] + (c[2] - a[2]) * t];
    const l = at(low, nutLow);
    const h = at(high, nutHigh);
    const half = (l[1] - h[1]) / 2;
    const r = 42 * k;
    return [0, 0.25, 0.5, 0.75, 1].map((a): Vec3 => {
      const y = l[1] + (h[1] - l[1]) * a;
      const rise = Math.sqrt(r * r - (half * (1 - 2 * a)) ** 2) - Math.sqrt(r * r - half * half);
      return [x, y, l[2] + (h[2] - l[2]) * a + rise];
    });
  };
  const steps = [0, 0.25, 0.5, 0.75, 1].map((t) => model.fingerboardEndX + t * (model.stringLength - model.fingerboardEndX));
  const strip = steps.map((x) => stripRow(x).map((p) => b.vertex(p)));
  for (let i = 1; i < strip.length; i++) b.band(strip[i - 1]!, strip[i]!);
  for (const edge of [0, 4]) {
    const top = strip.map((row) => row[edge]!);
    const low = steps.map((x, i) => {
      const p = b.vertices[strip[i]![edge]!]!;
      const depth = x > 135 * k ? 22 * k : 6 * k;
      return b.vertex([p[0], p[1] * 0.6, p[2] - depth]);
    });
    b.band(top, low);
  }

  // Pegbox and scroll: a tapering trough that leans back, as far as the scroll's foremost point.
  const scroll = lm['instrument.scroll'];
  const nutX = model.stringLength;
  const box = [0, 0.35, 0.7, 0.88, 1].map((t) => {
    const x = nutX + t * (scroll[0] - nutX);
    const half = (13 - 7 * t) * k;
    const top = (-1 - 14 * Math.sin(Math.min(1, t / 0.8) * Math.PI * 0.75)) * k + (t > 0.8 ? (scroll[2] + 12 * k) * ((t - 0.8) / 0.2) : 0);
    return [-half, 0, half].map((y) => b.vertex([x, scroll[1] * t - y, top]));
  });
  for (let i = 1; i < box.length; i++) b.band(box[i - 1]!, box[i]!);

  // Bridge: a thin sheet; tailpiece: a strip from near the bridge to the lower end.
  const foot = [lm['instrument.bridgeFoot.low'], lm['instrument.bridgeFoot.high']];
  const notch = [lm['instrument.bridge.low'], lm['instrument.bridge.high']];
  const rise = model.dimensions.bridgeRadius - Math.sqrt(model.dimensions.bridgeRadius ** 2 - (model.bridgeSpread / 2) ** 2);
  const top = [notch[0]!, [0, 0, rise] as Vec3, notch[1]!].map((p) => b.vertex(p));
  const base = [foot[0]!, [0, 0, (foot[0]![2] + foot[1]![2]) / 2 + 4] as Vec3, foot[1]!].map((p) => b.vertex(p));
  b.band(top, base);
  const end = lm['instrument.tailpieceEnd'];
  const front: Vec3 = [-55 * k, 0, -4 * k];
  const piece = [0, 0.5, 1].map((t) => {
    const half = (20 - 9 * t) * k;
    return [-1, 0, 1].map((a) => b.vertex([front[0] + (end[0] - front[0]) * t, -a * half + end[1] * t, front[2] + (end[2] - front[2]) * t - (a === 0 ? 0 : 4 * k)]));
  });
  for (let i = 1; i < piece.length; i++) b.band(piece[i - 1]!, piece[i]!);
  return { vertices: b.vertices, triangles: Uint16Array.from(b.faces) };
}

/** Distance along the optical axis (mm) of the nearest surface for every pixel of a rectangle; 0 where there is none. */
export interface DepthMap {
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  readonly depth: Float32Array;
}

/** Draws the relief as depth with a z-buffer. Pixel centres at half-integers. */
export function renderDepth(relief: Relief, pose: Pose, camera: Camera): DepthMap {
  const points = relief.vertices.map((v) => {
    const outer = toOuter(pose, v);
    const image = project(camera, outer);
    return image ? { x: image[0], y: image[1], w: 1 / outer[2] } : undefined;
  });
  const seen = points.filter((p) => p !== undefined);
  const clamp = (v: number, top: number) => Math.min(Math.max(v, 0), top);
  const x0 = Math.floor(clamp(Math.min(...seen.map((p) => p.x)), camera.width));
  const y0 = Math.floor(clamp(Math.min(...seen.map((p) => p.y)), camera.height));
  const width = Math.ceil(clamp(Math.max(...seen.map((p) => p.x)), camera.width)) - x0;
  const height = Math.ceil(clamp(Math.max(...seen.map((p) => p.y)), camera.height)) - y0;
  const nearness = new Float32Array(Math.max(0, width * height));
  for (let i = 0; i < relief.triangles.length; i += 3) {
    const a = points[relief.triangles[i]!];
    const b = points[relief.triangles[i + 1]!];
    const c = points[relief.triangles[i + 2]!];
    if (!a || !b || !c) continue;
    const area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
    if (Math.abs(area) < 1e-6) continue;
    const left = Math.max(x0, Math.floor(Math.min(a.x, b.x, c.x)));
    const right = Math.min(x0 + width - 1, Math.ceil(Math.max(a.x, b.x, c.x)));
    const topRow = Math.max(y0, Math.floor(Math.min(a.y, b.y, c.y)));
    const lowRow = Math.min(y0 + height - 1, Math.ceil(Math.max(a.y, b.y, c.y)));
    for (let y = topRow; y <= lowRow; y++) {
      for (let x = left; x <= right; x++) {
        const px = x + 0.5;
        const py = y + 0.5;
        const wb = ((px - a.x) * (c.y - a.y) - (py - a.y) * (c.x - a.x)) / area;
        const wc = ((b.x - a.x) * (py - a.y) - (b.y - a.y) * (px - a.x)) / area;
        const wa = 1 - wb - wc;
        if (wa < 0 || wb < 0 || wc < 0) continue;
        const w = wa * a.w + wb * b.w + wc * c.w;
        const at = (y - y0) * width + (x - x0);
        if (w > nearness[at]!) nearness[at] = w;
      }
    }
  }
  return { x0, y0, width, height, depth: nearness.map((w) => (w > 0 ? 1 / w : 0)) };
}
