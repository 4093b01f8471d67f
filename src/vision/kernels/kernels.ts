import type { Frame } from '../film/frame';
import { KERNEL_BYTES } from './kernelBytes';

/** An address in the kernels' memory. */
export type Address = number;

/** What `assembly/` exports; see the descriptions there. Lengths and places in pixels unless said otherwise. */
interface Kernels {
  readonly memory: WebAssembly.Memory;
  heapBase(): Address;
  correlate(seen: Address, mean: Address, weights: Address, count: number, least: number): number;
  slide(seen: Address, t: Address, w: Address, count: number, offsets: number, out: Address): number;
  vote(
    counts: Address,
    span: number,
    shares: Address,
    n: number,
    c1: number,
    c2: number,
    reach: number,
    from: number,
    to: number,
    step: number,
    slope1: number,
    slope2: number,
    best: Address,
    all: Address,
  ): void;
  cutAcross(luma: Address, width: number, height: number, x: number, y: number, ux: number, uy: number, half: number, pitch: number, work: Address, out: Address): void;
  cutPatch(luma: Address, width: number, height: number, x: number, y: number, ux: number, uy: number, along: number, da: number, across: number, db: number, out: Address): number;
  normalise(luma: Address, stride: number, width: number, height: number, r: number, work: Address, out: Address): void;
  normaliseWork(width: number, height: number): number;
  columns(): number;
  layOver(
    patch: Address,
    width: number,
    height: number,
    f: number,
    cx: number,
    cy: number,
    pose: Address,
    places: Address,
    values: Address,
    count: number,
    gain: number,
    offset: number,
    table: Address,
    room: number,
    at: number,
  ): void;
  medianResidual(table: Address, room: number, total: number, least: number, sizes: Address): number;
  weigh(table: Address, room: number, at: number, count: number, trust: Address, blocks: Address, blockCount: number, scale: number, work: Address, sums: Address): void;
  products(table: Address, room: number, at: number, count: number, sums: Address): void;
  likeness(table: Address, room: number, total: number): number;
}

/**
 * The loops that cost most (brightness along lines, correlation, local normalisation, registration), in WebAssembly with
 * vectors of two and four: written in `assembly/`, compiled by `npm run kernels`.
 */
export const kernels = new WebAssembly.Instance(new WebAssembly.Module(Uint8Array.from(atob(KERNEL_BYTES), (c) => c.charCodeAt(0))), {
  env: {
    abort: () => {
      throw new Error('a kernel gave up');
    },
  },
}).exports as unknown as Kernels;

const PAGE = 65_536;
/** Vectors reach a little beyond what they are asked for. */
const SPARE = 64;
let free = (kernels.heapBase() + 15) & ~15;

/** A stretch of the kernels' memory that grows with what is asked of it; what it held is lost when it does. */
export class Region {
  private address: Address = 0;
  private size = 0;

  /** Address of at least so many bytes. Views made before are no longer of use: memory may have moved. */
  take(bytes: number): Address {
    if (bytes > this.size) {
      this.size = Math.ceil((bytes * 1.2 + SPARE) / 16) * 16;
      this.address = free;
      free += this.size;
      const missing = Math.ceil((free - kernels.memory.buffer.byteLength) / PAGE);
      if (missing > 0) kernels.memory.grow(missing);
    }
    return this.address;
  }

  /** Address of a copy of such numbers. */
  hold(values: Float32Array | Float64Array | Uint16Array | Uint8Array): Address {
    const address = this.take(values.byteLength);
    new Uint8Array(kernels.memory.buffer, address, values.byteLength).set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
    return address;
  }
}

/** So many single numbers at an address, until memory grows. */
export const singles = (address: Address, count: number): Float32Array => new Float32Array(kernels.memory.buffer, address, count);
/** So many double numbers at an address, until memory grows. */
export const doubles = (address: Address, count: number): Float64Array => new Float64Array(kernels.memory.buffer, address, count);

const picture = new Region();
let held: Frame | undefined;
let heldAt: Address = 0;

/** Address of a frame's brightness. The frame asked for last is kept. */
export function lumaAddress(frame: Frame): Address {
  if (frame !== held) {
    heldAt = picture.hold(frame.luma);
    held = frame;
  }
  return heldAt;
}
