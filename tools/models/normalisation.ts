import { Builder } from 'flatbuffers';

/**
 * TFLite model metadata (schema identifier M001) that says one thing: how pixels are brought to the range the network
 * was trained on, (value - mean) / deviation. The task loader refuses networks without it.
 */
export function normalisationMetadata(mean: number, deviation: number): Uint8Array {
  const b = new Builder(256);
  const floats = (value: number) => {
    b.startVector(4, 1, 4);
    b.addFloat32(value);
    return b.endVector();
  };
  const listOf = (offset: number) => {
    b.startVector(4, 1, 4);
    b.addOffset(offset);
    return b.endVector();
  };
  /** A table from its fields, by slot. */
  const table = (slots: number, write: () => void) => {
    b.startObject(slots);
    write();
    return b.endObject();
  };
  const [means, deviations] = [floats(mean), floats(deviation)];
  const options = table(2, () => {
    b.addFieldOffset(0, means, 0);
    b.addFieldOffset(1, deviations, 0);
  });
  const NORMALISATION = 1;
  const unit = table(2, () => {
    b.addFieldInt8(0, NORMALISATION, 0);
    b.addFieldOffset(1, options, 0);
  });
  const units = listOf(unit);
  const RGB = 1;
  const image = table(2, () => b.addFieldInt8(0, RGB, 0));
  const IMAGE = 2;
  const content = table(3, () => {
    b.addFieldInt8(0, IMAGE, 0);
    b.addFieldOffset(1, image, 0);
  });
  const tensorName = b.createString('image');
  const tensor = table(7, () => {
    b.addFieldOffset(0, tensorName, 0);
    b.addFieldOffset(3, content, 0);
    b.addFieldOffset(4, units, 0);
  });
  const tensors = listOf(tensor);
  const graph = table(8, () => b.addFieldOffset(2, tensors, 0));
  const graphs = listOf(graph);
  const [version, name] = [b.createString('1.0.0'), b.createString('network')];
  const root = table(8, () => {
    b.addFieldOffset(0, name, 0);
    b.addFieldOffset(3, graphs, 0);
    b.addFieldOffset(7, version, 0);
  });
  b.finish(root, 'M001');
  return b.asUint8Array();
}
