import { hairLine } from '../../../core/bow/bowState';
import { project } from '../../../core/geometry/camera';
import { toOuter } from '../../../core/geometry/pose';
import type { Vec2 } from '../../../core/geometry/vec3';
import { bowContextOf } from '../../../core/measures/measureFrames';
import type { TakeMeasures } from '../../../core/take/analyse';

/** Lines to draw over one frame, in pixels of the film. */
export interface FilmOverlay {
  readonly frog: Vec2;
  readonly tip: Vec2;
  readonly contact: Vec2;
  /** The way the bow should lie through the same contact. */
  readonly squareFrog: Vec2;
  readonly squareTip: Vec2;
}

/** Where bow, contact and square lie in a frame; undefined where not measured. */
export function overlayOf(take: TakeMeasures, index: number): FilmOverlay | undefined {
  const frame = take.frames[index];
  const pose = take.tracked[index]?.pose;
  if (!frame || !pose || !frame.string) return undefined;
  const { skew_deg, inclination_deg, contact_mm, bow_position } = frame.values;
  if (!skew_deg || !inclination_deg || !contact_mm) return undefined;
  const context = bowContextOf(take);
  const string = context.strings.find((s) => s.name === frame.string);
  if (!string) return undefined;
  const state = { contact: contact_mm.value, skew: skew_deg.value, inclination: inclination_deg.value, position: bow_position?.value ?? 0.5 };
  const bow = hairLine(state, string, context.hair, context.side);
  const square = hairLine({ ...state, skew: 0 }, string, context.hair, context.side);
  const image = (p: Parameters<typeof toOuter>[1]): Vec2 | undefined => {
    const q = project(context.camera, toOuter(pose, p));
    return q && take.mirrored ? [context.camera.width - q[0], q[1]] : q;
  };
  const [frog, tip, contact, squareFrog, squareTip] = [bow.frog, bow.tip, bow.contact, square.frog, square.tip].map(image);
  return frog && tip && contact && squareFrog && squareTip ? { frog, tip, contact, squareFrog, squareTip } : undefined;
}
