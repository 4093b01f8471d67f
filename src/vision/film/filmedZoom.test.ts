import { ALL_FORMATS, BufferSource, BufferTarget, EncodedPacket, EncodedVideoPacketSource, Input, MovOutputFormat, Output } from 'mediabunny';
import { describe, expect, it } from 'vitest';
import { EQUIVALENT_FOCAL, zoomOf } from './filmedZoom';

/** A film of one picture with a phone's notes, as written by a general film library. */
async function filmWith(notes: Record<string, string | Uint8Array>): Promise<Input> {
  const target = new BufferTarget();
  const output = new Output({ format: new MovOutputFormat({ metadataFormat: 'mdta' }), target });
  const source = new EncodedVideoPacketSource('vp9');
  output.addVideoTrack(source);
  output.setMetadataTags({ raw: notes });
  await output.start();
  await source.add(new EncodedPacket(new Uint8Array([0]), 'key', 0, 1), { decoderConfig: { codec: 'vp09.00.10.08', codedWidth: 64, codedHeight: 36 } });
  await output.finalize();
  return new Input({ formats: ALL_FORMATS, source: new BufferSource(target.buffer!) });
}

const bytes = (fill: (view: DataView) => void, length: number): Uint8Array => {
  const out = new Uint8Array(length);
  fill(new DataView(out.buffer));
  return out;
};

describe('how far a lens was zoomed, by the film’s own notes', () => {
  it.each([
    ['the wide lens', '13', 0.5],
    ['twice', '52', 2],
    ['the main lens', '26', 1],
    ['the main lens of another phone', '24', 1],
    ['a fraction', '77.4', 2.98],
  ])('is told: %s', async (_, focal, zoom) => {
    expect(await zoomOf(await filmWith({ [EQUIVALENT_FOCAL]: focal }))).toBe(zoom);
  });

  it('is not told without notes, or by such as cannot be', async () => {
    expect(await zoomOf(await filmWith({ 'com.apple.quicktime.software': '17.1' }))).toBeUndefined();
    for (const focal of ['0', '5000', 'main lens', '']) expect(await zoomOf(await filmWith({ [EQUIVALENT_FOCAL]: focal }))).toBeUndefined();
  });

  it('is read from numbers however they are written', async () => {
    const noted = (value: Uint8Array) => zoomOf({ getMetadataTags: async () => ({ raw: { [EQUIVALENT_FOCAL]: value } }) });
    expect(await noted(bytes((v) => v.setUint8(0, 52), 1))).toBe(2);
    expect(await noted(bytes((v) => v.setUint16(0, 52), 2))).toBe(2);
    expect(await noted(bytes((v) => v.setUint32(0, 52), 4))).toBe(2);
    expect(await noted(bytes((v) => v.setFloat32(0, 52), 4))).toBe(2);
    expect(await noted(bytes((v) => v.setBigUint64(0, 52n), 8))).toBe(2);
    expect(await noted(bytes((v) => v.setFloat64(0, 52), 8))).toBe(2);
    expect(await noted(new Uint8Array(3))).toBeUndefined();
  });

  it('is not told where the notes cannot be read', async () => {
    expect(await zoomOf({ getMetadataTags: () => Promise.reject(new Error('cut off')) })).toBeUndefined();
  });
});
