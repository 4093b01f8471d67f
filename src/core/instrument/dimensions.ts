import type { Family } from './family';

/**
 * Dimensions of an instrument and its bow in millimetres. All defaults are from memory, lutherie common
 * practice; real instruments differ by a few per cent, so every use treats them as uncertain.
 */
export interface Dimensions {
  readonly body: number;
  /** Sounding length of an open string. */
  readonly stringLength: number;
  readonly bridgeToFingerboard: number;
  /** Between the outer strings at the bridge. */
  readonly bridgeSpread: number;
  /** Between the outer strings at the nut. */
  readonly nutSpread: number;
  /** Radius of the bridge's top arc. */
  readonly bridgeRadius: number;
  readonly bow: number;
  /** Free length of the hair, frog to tip. */
  readonly hair: number;
  /** Strings over the plane of the body's edge at the bridge, in its middle. */
  readonly stringHeight: number;
  readonly ribs: number;
}

/** String height and ribs as shares of the body's length: cellos are deeper built (bridge 33 over an arching of 15, ribs 31 on a violin of 356; 90 over 27, ribs 118 on a cello of 755). */
const VIOLIN_BUILD = { stringHeight: 48 / 356, ribs: 31 / 356 };
const CELLO_BUILD = { stringHeight: 117 / 755, ribs: 118 / 755 };

const d = (
  body: number,
  stringLength: number,
  bridgeToFingerboard: number,
  bridgeSpread: number,
  nutSpread: number,
  bridgeRadius: number,
  bow: number,
  hair: number,
  build = VIOLIN_BUILD,
): Dimensions => ({
  body,
  stringLength,
  bridgeToFingerboard,
  bridgeSpread,
  nutSpread,
  bridgeRadius,
  bow,
  hair,
  stringHeight: body * build.stringHeight,
  ribs: body * build.ribs,
});

export const SIZES: Record<Family, Record<string, Dimensions>> = {
  violin: {
    '4/4': d(356, 328, 58, 34, 16.5, 42, 745, 650),
    '3/4': d(335, 308, 54, 32.5, 15.5, 40, 690, 595),
    '1/2': d(310, 285, 50, 31, 15, 38, 620, 530),
    '1/4': d(280, 257, 45, 29, 14, 36, 545, 460),
    '1/8': d(255, 233, 41, 27.5, 13.5, 34, 480, 400),
    '1/16': d(230, 210, 37, 26, 13, 32, 430, 355),
  },
  viola: {
    '16"': d(406, 375, 66, 37.5, 18, 50, 745, 640),
    '15"': d(381, 353, 62, 36.5, 17.5, 48, 745, 640),
    '14"': d(356, 330, 58, 35, 17, 46, 690, 595),
  },
  cello: {
    '4/4': d(755, 690, 120, 47, 22, 64, 715, 600, CELLO_BUILD),
    '3/4': d(690, 625, 108, 44, 21, 60, 670, 560, CELLO_BUILD),
    '1/2': d(650, 575, 100, 41, 20, 56, 620, 515, CELLO_BUILD),
    '1/4': d(580, 520, 90, 38, 18.5, 52, 560, 460, CELLO_BUILD),
  },
  bass: { '3/4': d(1110, 1050, 170, 80, 30, 90, 715, 550, CELLO_BUILD) },
};

export const sizesOf = (family: Family): string[] => Object.keys(SIZES[family]);

/**
 * Dimensions of a size, with the teacher's own measurements laid over the defaults.
 * @throws RangeError in plain words when the size is unknown or a measurement is out of all proportion.
 */
export function dimensionsOf(family: Family, size: string, measured: Partial<Dimensions> = {}): Dimensions {
  const base = SIZES[family]?.[size];
  if (!base) {
    throw new RangeError(`There is no ${family} of size ${size}. Known sizes: ${sizesOf(family).join(', ')}.`);
  }
  for (const [name, value] of Object.entries(measured)) {
    const usual = base[name as keyof Dimensions];
    if (usual === undefined) throw new RangeError(`"${name}" is not a dimension of an instrument.`);
    if (!(value > usual * 0.6 && value < usual * 1.6)) {
      throw new RangeError(`${name} of ${value} mm does not fit a ${size} ${family} (usually ${usual} mm).`);
    }
  }
  // A body of another length is as much higher built.
  const grown = (measured.body ?? base.body) / base.body;
  return { ...base, stringHeight: base.stringHeight * grown, ribs: base.ribs * grown, ...measured };
}
