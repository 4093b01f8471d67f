/** One age's measures of a child of middle size. */
export interface Growth {
  readonly age: number;
  /** mm. */
  readonly stature: number;
  /** Chin to crown, mm. */
  readonly headHeight: number;
}

/** Both sexes together, rounded (from memory, public growth tables and anthropometric surveys). */
const TABLE: readonly Growth[] = [
  { age: 4, stature: 1030, headHeight: 183 },
  { age: 6, stature: 1160, headHeight: 191 },
  { age: 8, stature: 1280, headHeight: 198 },
  { age: 10, stature: 1390, headHeight: 204 },
  { age: 12, stature: 1500, headHeight: 209 },
  { age: 14, stature: 1620, headHeight: 216 },
  { age: 18, stature: 1720, headHeight: 223 },
];

/** Measures of a player of that stature (mm), between the rows of the table; beyond its ends the last row goes on. */
export function growthAt(stature: number): Growth {
  const above = TABLE.findIndex((row) => row.stature >= stature);
  if (above === 0) return { ...TABLE[0]!, stature };
  if (above < 0) return { ...TABLE[TABLE.length - 1]!, stature };
  const a = TABLE[above - 1]!;
  const b = TABLE[above]!;
  const t = (stature - a.stature) / (b.stature - a.stature);
  return { age: a.age + t * (b.age - a.age), stature, headHeight: a.headHeight + t * (b.headHeight - a.headHeight) };
}

/** 1 at four years, 0 grown up: how childlike face and limbs are. */
export const childlike = (age: number): number => Math.min(1, Math.max(0, (18 - age) / 14));
