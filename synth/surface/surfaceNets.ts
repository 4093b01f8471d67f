import type { Vec3 } from '../../src/core/geometry/vec3';
import { type Field, gradient } from './field';

/** A closed triangle mesh with smooth normals and the share of open sky over each vertex. */
export interface Surface {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** 0 wholly shut in .. 1 open, one a vertex. */
  readonly openness: Float32Array;
  readonly index: Uint32Array;
}

export interface Box {
  readonly min: Vec3;
  readonly max: Vec3;
}

const EDGES: readonly (readonly [number, number])[] = [
  [0, 1],
  [2, 3],
  [4, 5],
  [6, 7],
  [0, 2],
  [1, 3],
  [4, 6],
  [5, 7],
  [0, 4],
  [1, 5],
  [2, 6],
  [3, 7],
];

/** Side of the blocks that are skipped when the surface is far, cells. */
const BLOCK = 4;
/** Fields may grow this much faster than the distance they stand for (stretched solids, folds). */
const STEEPEST = 2;

/** The field at every grid point; blocks that the surface cannot touch keep the value of their middle. */
function sampleField(field: Field, origin: Vec3, [nx, ny, nz]: Vec3, cell: number): Float32Array {
  const values = new Float32Array(nx * ny * nz);
  const far = STEEPEST * cell * BLOCK * 0.87;
  for (let k0 = 0; k0 < nz; k0 += BLOCK) {
    for (let j0 = 0; j0 < ny; j0 += BLOCK) {
      for (let i0 = 0; i0 < nx; i0 += BLOCK) {
        const half = (BLOCK / 2) * cell;
        const middle = field(origin[0] + i0 * cell + half, origin[1] + j0 * cell + half, origin[2] + k0 * cell + half);
        const skip = Math.abs(middle) > far;
        for (let k = k0; k < Math.min(nz, k0 + BLOCK); k++) {
          for (let j = j0; j < Math.min(ny, j0 + BLOCK); j++) {
            for (let i = i0; i < Math.min(nx, i0 + BLOCK); i++) {
              values[(k * ny + j) * nx + i] = skip ? middle : field(origin[0] + i * cell, origin[1] + j * cell, origin[2] + k * cell);
            }
          }
        }
      }
    }
  }
  return values;
}

/**
 * Meshes a field by naive surface nets (Gibson 1998, cited from memory): one vertex a cell that the surface
 * passes, pulled onto the surface along its normal. `cell` in mm; the box must hold the whole solid.
 */
export function meshField(field: Field, box: Box, cell: number): Surface {
  const n = [0, 1, 2].map((a) => Math.ceil((box.max[a]! - box.min[a]!) / cell) + 2) as unknown as Vec3;
  const [nx, ny, nz] = n;
  const origin: Vec3 = [box.min[0] - cell / 2, box.min[1] - cell / 2, box.min[2] - cell / 2];
  const values = sampleField(field, origin, n, cell);
  const corner = [0, 1, nx, nx + 1, nx * ny, nx * ny + 1, nx * ny + nx, nx * ny + nx + 1];
  const vertexOf = new Int32Array(nx * ny * nz).fill(-1);
  const positions: number[] = [];
  const index: number[] = [];
  for (let k = 0; k < nz - 1; k++) {
    for (let j = 0; j < ny - 1; j++) {
      for (let i = 0; i < nx - 1; i++) {
        const at = (k * ny + j) * nx + i;
        let mask = 0;
        for (let c = 0; c < 8; c++) if (values[at + corner[c]!]! < 0) mask |= 1 << c;
        if (mask === 0 || mask === 255) continue;
        let x = 0;
        let y = 0;
        let z = 0;
        let crossings = 0;
        for (const [a, b] of EDGES) {
          if (((mask >> a) & 1) === ((mask >> b) & 1)) continue;
          const va = values[at + corner[a]!]!;
          const t = va / (va - values[at + corner[b]!]!);
          x += (a & 1) + t * ((b & 1) - (a & 1));
          y += ((a >> 1) & 1) + t * (((b >> 1) & 1) - ((a >> 1) & 1));
          z += (a >> 2) + t * ((b >> 2) - (a >> 2));
          crossings++;
        }
        vertexOf[at] = positions.length / 3;
        positions.push(origin[0] + (i + x / crossings) * cell, origin[1] + (j + y / crossings) * cell, origin[2] + (k + z / crossings) * cell);
        // Quads about the three edges that end in this cell's first corner.
        const inside = mask & 1;
        const quad = (other: number, a: number, b: number, c: number) => {
          if (inside === ((mask >> other) & 1)) return;
          const [p, q, r, s] = [at, a, b, c].map((v) => vertexOf[v]!) as [number, number, number, number];
          if (Math.min(p, q, r, s) < 0) return;
          if (inside) index.push(p, q, r, p, r, s);
          else index.push(p, r, q, p, s, r);
        };
        if (j > 0 && k > 0) quad(1, at - nx, at - nx - nx * ny, at - nx * ny);
        if (i > 0 && k > 0) quad(2, at - nx * ny, at - nx * ny - 1, at - 1);
        if (i > 0 && j > 0) quad(4, at - 1, at - 1 - nx, at - nx);
      }
    }
  }
  const count = positions.length / 3;
  const out = Float32Array.from(positions);
  const normals = new Float32Array(3 * count);
  const openness = new Float32Array(count);
  for (let v = 0; v < count; v++) {
    let [x, y, z] = [out[3 * v]!, out[3 * v + 1]!, out[3 * v + 2]!];
    let g: Vec3 = [0, 0, 1];
    for (let step = 0; step < 2; step++) {
      g = gradient(field, x, y, z);
      const d = Math.max(-cell, Math.min(cell, field(x, y, z)));
      x -= g[0] * d * 0.8;
      y -= g[1] * d * 0.8;
      z -= g[2] * d * 0.8;
    }
    g = gradient(field, x, y, z);
    out.set([x, y, z], 3 * v);
    normals.set(g, 3 * v);
    // Where the solid is near over the surface, less light comes in (Quilez's field occlusion, from memory).
    let shut = 0;
    let weight = 0.55;
    for (const h of [4, 9, 18, 34]) {
      shut += weight * Math.max(0, 1 - Math.max(0, field(x + g[0] * h, y + g[1] * h, z + g[2] * h)) / h);
      weight *= 0.6;
    }
    openness[v] = Math.max(0.25, 1 - shut * 0.8);
  }
  return { positions: out, normals, openness, index: Uint32Array.from(index) };
}
