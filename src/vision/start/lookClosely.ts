import { type Camera, insidePicture } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import { INSTRUMENT_LANDMARKS, type InstrumentModel } from '../../core/instrument/landmarks';
import type { LandmarkSighting } from '../../core/instrument/solveMarks';
import { type FusedPoint, fuseLooks, type Look } from '../../core/start/fuse';
import { BOX, instrumentBox, instrumentSightings, type PlacedInstrument, placeInstrument } from '../../core/start/placeInstrument';
import type { Square } from '../../core/start/square';

/** The body from close by, at this factor of its box; both also turned (radians). */
const CLOSE = 1.5;
export const TURNS = [0, 0.175, -0.175];
const CLOSE_TURNS = [0.1, -0.1];
const BODY_POINTS = INSTRUMENT_LANDMARKS.filter((name) => !/scroll|nut/.test(name));
/** So near the picture's border (px at 960) points are not believed. */
const BORDER = 7;

/** Squares about a place, at some factors of its side, each turned. */
export const squaresAbout = ({ middle, side }: Omit<Square, 'turn'>, factors: readonly number[], turns: readonly number[] = [0]): Square[] =>
  factors.flatMap((k) => turns.map((turn) => ({ middle, side: k * side, turn })));

/** A point at the picture's border more often lies beyond it: it does not count. */
export function withinPicture(camera: Camera, points: readonly FusedPoint[]): FusedPoint[] {
  const border = (BORDER * Math.max(camera.width, camera.height)) / 960;
  return points.map((p) => (insidePicture(camera, p.point, border) ? p : { ...p, confidence: 0 }));
}

/** The instrument looked at again in its own box, then with its body filling the square: a pixel of the network is then about one of the film. Undefined where its box lies nowhere, or too little agrees. */
export async function lookClosely(
  look: (squares: readonly Square[]) => Promise<Look[]>,
  camera: Camera,
  model: InstrumentModel,
  pose: Pose,
): Promise<PlacedInstrument | undefined> {
  const place = (looks: readonly Look[], near?: Pose) => placeInstrument(camera, model, withinPicture(camera, fuseLooks(looks)), near);
  const box = instrumentBox(camera, model, pose);
  if (!box) return undefined;
  const whole = await look(squaresAbout(box, [BOX], TURNS));
  const again = place(whole);
  const body = again && instrumentBox(camera, model, again.pose, BODY_POINTS);
  if (!body) return again;
  return place([...whole, ...(await look(squaresAbout(body, [CLOSE], CLOSE_TURNS)))], again.pose) ?? again;
}

/** Points that show of an instrument whose place is roughly known, film px, by looks at its box and its body. None where it lies behind the camera. */
export async function lookAtPoints(look: (squares: readonly Square[]) => Promise<Look[]>, camera: Camera, model: InstrumentModel, pose: Pose): Promise<LandmarkSighting[]> {
  const box = instrumentBox(camera, model, pose);
  const body = instrumentBox(camera, model, pose, BODY_POINTS);
  if (!box || !body) return [];
  const looks = await look([...squaresAbout(box, [BOX], TURNS), ...squaresAbout(body, [CLOSE], CLOSE_TURNS)]);
  return instrumentSightings(withinPicture(camera, fuseLooks(looks)));
}
