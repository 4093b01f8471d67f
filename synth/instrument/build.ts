import { bodyPoint, LOWER_CORNER, UPPER_CORNER } from '../../src/core/instrument/body';
import { type Dimensions, dimensionsOf } from '../../src/core/instrument/dimensions';
import { type InstrumentModel, instrumentModel, SHAPE } from '../../src/core/instrument/landmarks';
import { normal, seededRandom } from '../../src/core/random';
import type { Scenario } from '../presets/scenario';
import { type InstrumentLooks, plainLooks, swollen, unlikeLooks } from './looks';

/** One very instrument and bow, as unlike its size's defaults as real ones are. */
export interface InstrumentBuild {
  readonly model: InstrumentModel;
  readonly dimensions: Dimensions;
  /** Multiplies widths of the plate. */
  readonly width: number;
  readonly lengthways: number;
  /** This bow's hair, mm. */
  readonly hair: number;
  /** Size of the bow's other parts against a full violin bow. */
  readonly bowScale: number;
  /** Length of the endpin, mm; 0 for instruments held at the shoulder. */
  readonly endpin: number;
  readonly looks: InstrumentLooks;
}

/** Departures of a real instrument, in sigmas of what the measuring side expects (ours). */
const SPREAD = 0.7;
/** The same where instruments are to be as unlike as they come. */
const UNLIKE_SPREAD = 1.2;

export function buildInstrument(scenario: Scenario): InstrumentBuild {
  const dimensions = dimensionsOf(scenario.family, scenario.size);
  const random = seededRandom(scenario.seed * 31 + 5);
  // Seed 1 is a plain instrument of its size; corners are drawn through the plate's width instead.
  const spread = scenario.unlike ? UNLIKE_SPREAD : scenario.seed === 1 ? 0.3 : SPREAD;
  const looks = scenario.unlike ? unlikeLooks(scenario.seed) : plainLooks(scenario.seed);
  const shape = Float64Array.from(SHAPE, (_, i) => (i < 27 ? normal(random) * spread : 0));
  const width = 1 + 0.012 * normal(random) * spread;
  const lengthways = 1 + (shape[25]! * 3) / 356;
  const base = instrumentModel(dimensions, shape);
  const corner = (u0: number, y0: number) => {
    const [u, y] = swollen(looks.outline, u0, y0);
    return bodyPoint(base.frame, u * lengthways, y * width, 2);
  };
  const model: InstrumentModel = {
    ...base,
    landmarks: {
      ...base.landmarks,
      'instrument.upperCorner.low': corner(UPPER_CORNER.u, UPPER_CORNER.y),
      'instrument.upperCorner.high': corner(UPPER_CORNER.u, -UPPER_CORNER.y),
      'instrument.lowerCorner.low': corner(LOWER_CORNER.u, LOWER_CORNER.y),
      'instrument.lowerCorner.high': corner(LOWER_CORNER.u, -LOWER_CORNER.y),
    },
  };
  const cello = scenario.family === 'cello' || scenario.family === 'bass';
  return {
    model,
    dimensions,
    width,
    lengthways,
    hair: dimensions.hair * (1 + 0.008 * normal(random) * spread),
    bowScale: cello ? 1.12 * Math.max(0.8, dimensions.hair / 600) : Math.max(0.75, model.frame.scale),
    // The pin is set to the seat.
    endpin: cello ? 0.33 * dimensions.body + scenario.posture.seatHeight : 0,
    looks,
  };
}
