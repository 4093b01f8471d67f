import { RADIANS, type Vec2, type Vec3 } from './vec3';

/**
 * A pinhole camera. Camera frame: x right, y down, z away from the camera. The optical axis meets the
 * picture's centre; phones crop and stabilise about it.
 */
export interface Camera {
  /** Focal length in pixels. */
  readonly focal: number;
  readonly width: number;
  readonly height: number;
}

/** Field of view across the picture's long side taken for phones when nothing better is known, degrees (ours). */
export const DEFAULT_FIELD_OF_VIEW_DEG = 65;
/** Standard uncertainty of the logarithm of the focal length before any measurement (ours: about 6 %). */
export const LOG_FOCAL_SIGMA = 0.06;
/** Films steadied by the phone show a tenth less than the lens does: so much more doubt where a number hangs on the focal length alone (ours). */
export const STEADIED_LOG_FOCAL_SIGMA = 0.08;

export function cameraFromFieldOfView(width: number, height: number, degrees = DEFAULT_FIELD_OF_VIEW_DEG): Camera {
  return { focal: Math.max(width, height) / 2 / Math.tan((degrees * RADIANS) / 2), width, height };
}

/**
 * Zooms that phones offer on their camera's buttons, times the main lens: 0.5 is the wide lens for small rooms. The main lens
 * is taken for {@link DEFAULT_FIELD_OF_VIEW_DEG}, the others in proportion (from memory: 13, 26, 52 and 78 mm on small film).
 */
export const ZOOMS = [0.5, 1, 2, 3] as const;

/** No phone's lens is wider, and none zoomed further is of use. */
export const LEAST_ZOOM = 0.3;
export const MOST_ZOOM = 15;

/** The picture of a film: upright size in pixels, and how far the lens was zoomed where that is known. */
export interface FilmedPicture {
  readonly width: number;
  readonly height: number;
  readonly zoom?: number | undefined;
}

/** A camera before any measurement, and the standard uncertainty of the logarithm of its focal length; {@link LOG_FOCAL_SIGMA} where left out. */
export interface SupposedCamera extends Camera {
  readonly logFocalSigma?: number | undefined;
}

/** Phones' other lenses differ more from one phone to the next than main ones do (from memory: wide ones of 13 to 16 mm). */
const OTHER_LENS_SIGMA = 0.1;

/** The camera that is supposed to have taken a film. */
export function supposedCamera({ width, height, zoom = 1 }: FilmedPicture): SupposedCamera {
  const camera = cameraFromFieldOfView(width, height);
  return zoom === 1 ? camera : { ...camera, focal: zoom * camera.focal, logFocalSigma: OTHER_LENS_SIGMA };
}

/** Image of a point given in the camera frame; undefined behind the camera (nearer than a millimetre). */
export function project(camera: Camera, p: Vec3): Vec2 | undefined {
  if (!(p[2] > 1)) return undefined;
  const k = camera.focal / p[2];
  return [camera.width / 2 + k * p[0], camera.height / 2 + k * p[1]];
}

/** Direction in the camera frame, with z = 1, of the ray through a picture point. */
export const ray = (camera: Camera, p: Vec2): Vec3 => [(p[0] - camera.width / 2) / camera.focal, (p[1] - camera.height / 2) / camera.focal, 1];

export const insidePicture = (camera: Camera, p: Vec2, margin = 0): boolean => p[0] >= margin && p[1] >= margin && p[0] <= camera.width - margin && p[1] <= camera.height - margin;
