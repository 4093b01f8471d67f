/** Slots of the Model table in the TFLite schema. */
const SLOT = { version: 0, operatorCodes: 1, subgraphs: 2, description: 3, buffers: 4, metadataBuffer: 5, metadata: 6 } as const;
const SLOTS = 7;
const ENTRY_NAME = 'TFLITE_METADATA';

/** Places in a flatbuffer: offsets there count forward from where they stand. */
class View {
  private readonly view: DataView;
  constructor(readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  u32 = (at: number) => this.view.getUint32(at, true);
  u16 = (at: number) => this.view.getUint16(at, true);
  i32 = (at: number) => this.view.getInt32(at, true);
  setU32 = (at: number, value: number) => this.view.setUint32(at, value, true);
  setU16 = (at: number, value: number) => this.view.setUint16(at, value, true);
  setI32 = (at: number, value: number) => this.view.setInt32(at, value, true);
  follow = (at: number) => at + this.u32(at);
  point = (at: number, target: number) => this.setU32(at, target - at);
  /** Place of a table's field, 0 where it is left out. */
  field(table: number, slot: number): number {
    const vtable = table - this.i32(table);
    const entry = 4 + 2 * slot;
    const offset = entry < this.u16(vtable) ? this.u16(vtable + entry) : 0;
    return offset ? table + offset : 0;
  }
}

/**
 * A TFLite network with a metadata entry added. Nothing of the old file moves: a new root with new lists of
 * buffers and entries is set before it and points into it.
 * @throws Error when the bytes are not a TFLite network.
 */
export function withMetadata(network: Uint8Array, metadata: Uint8Array): Uint8Array {
  const old = new View(network);
  if (new TextDecoder().decode(network.subarray(4, 8)) !== 'TFL3') throw new Error('not a TFLite network: the mark TFL3 is missing');
  const root = old.follow(0);
  const target = (slot: number) => {
    const at = old.field(root, slot);
    return at ? old.follow(at) : 0;
  };
  const listed = (list: number) => (list ? Array.from({ length: old.u32(list) }, (_, i) => old.follow(list + 4 + 4 * i)) : []);
  const buffers = listed(target(SLOT.buffers));
  const entries = listed(target(SLOT.metadata));

  let size = 8;
  const place = (bytes: number, align = 4) => {
    size = Math.ceil(size / align) * align;
    const at = size;
    size += bytes;
    return at;
  };
  const vtable = place(4 + 2 * SLOTS + 2);
  const table = place(4 + 4 * SLOTS);
  const bufferList = place(4 + 4 * (buffers.length + 1));
  const entryList = place(4 + 4 * (entries.length + 1));
  const entryVtable = place(8);
  const entry = place(12);
  const name = place(4 + ENTRY_NAME.length + 1);
  const bufferVtable = place(8);
  const buffer = place(8);
  // The data itself, after its length, wants sixteen-byte steps.
  const data = place(4 + metadata.length + 12, 16) + 12;
  size = Math.ceil(size / 64) * 64;

  const bytes = new Uint8Array(size + network.length);
  bytes.set(network, size);
  const out = new View(bytes);
  out.point(0, table);
  bytes.set(new TextEncoder().encode('TFL3'), 4);
  out.setU16(vtable, 4 + 2 * SLOTS);
  out.setU16(vtable + 2, 4 + 4 * SLOTS);
  out.setI32(table, table - vtable);
  const slotAt = (slot: number) => {
    const at = table + 4 + 4 * slot;
    out.setU16(vtable + 4 + 2 * slot, at - table);
    return at;
  };
  out.setU32(slotAt(SLOT.version), old.field(root, SLOT.version) ? old.u32(old.field(root, SLOT.version)) : 3);
  for (const slot of [SLOT.operatorCodes, SLOT.subgraphs, SLOT.description, SLOT.metadataBuffer]) if (target(slot)) out.point(slotAt(slot), size + target(slot));
  out.point(slotAt(SLOT.buffers), bufferList);
  out.point(slotAt(SLOT.metadata), entryList);
  const writeList = (list: number, targets: readonly number[]) => {
    out.setU32(list, targets.length);
    targets.forEach((t, i) => {
      out.point(list + 4 + 4 * i, t);
    });
  };
  writeList(bufferList, [...buffers.map((b) => size + b), buffer]);
  writeList(entryList, [...entries.map((e) => size + e), entry]);
  // Metadata entry: its name, and which buffer holds it.
  out.setU16(entryVtable, 8);
  out.setU16(entryVtable + 2, 12);
  out.setU16(entryVtable + 4, 4);
  out.setU16(entryVtable + 6, 8);
  out.setI32(entry, entry - entryVtable);
  out.point(entry + 4, name);
  out.setU32(entry + 8, buffers.length);
  out.setU32(name, ENTRY_NAME.length);
  bytes.set(new TextEncoder().encode(ENTRY_NAME), name + 4);
  out.setU16(bufferVtable, 6);
  out.setU16(bufferVtable + 2, 8);
  out.setU16(bufferVtable + 4, 4);
  out.setI32(buffer, buffer - bufferVtable);
  out.point(buffer + 4, data);
  out.setU32(data, metadata.length);
  bytes.set(metadata, data + 4);
  return bytes;
}
