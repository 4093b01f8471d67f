import type { Frame, FrameSource } from './frame';

/** The same film seen in a mirror: what a left-handed player shows becomes right-handed. Pictures in colour stay as they were filmed. */
export function mirrored(source: FrameSource): FrameSource {
  return {
    width: source.width,
    height: source.height,
    times: source.times,
    async *forward(from, to, inColour) {
      for await (const frame of source.forward(from, to, inColour)) yield flip(frame);
    },
  };
}

function flip(frame: Frame): Frame {
  const { width, height } = frame;
  const luma = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) luma[row + x] = frame.luma[row + width - 1 - x]!;
  }
  return { ...frame, luma };
}

/** Draws the mirror image of a picture over a canvas of its size. */
export function drawMirrored(context: OffscreenCanvasRenderingContext2D, picture: ImageBitmap | OffscreenCanvas): void {
  context.setTransform(-1, 0, 0, 1, picture.width, 0);
  context.drawImage(picture, 0, 0);
  context.resetTransform();
}

/** The picture in a mirror; the one given is closed. */
export function mirroredPicture(picture: ImageBitmap): ImageBitmap {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  drawMirrored(canvas.getContext('2d')!, picture);
  picture.close();
  return canvas.transferToImageBitmap();
}
