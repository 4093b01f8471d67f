/** Two edges on either side of a middle: good up to the first, fault beyond the second. */
export interface TwoSidedBand {
  readonly middle: number;
  readonly good: number;
  readonly fault: number;
}

/** Good up to the first edge, fault beyond the second. */
export interface UpperBand {
  readonly good: number;
  readonly fault: number;
  /** The same at every stage: asked from the first lesson on. */
  readonly allStages?: true;
}

/** Good from `least` up, fault below `fault`; `most` is as far as it goes. */
export interface LowerBand {
  readonly least: number;
  readonly fault: number;
  readonly most: number;
}

export type Band = TwoSidedBand | UpperBand | LowerBand;

/** The band for a stage whose factor is `k`: half-widths and upper edges times it, lower edges divided by it (section 6 of the measurement reference). */
export function widened(band: Band, k: number): Band {
  if ('least' in band) return { ...band, least: band.least / k, fault: band.fault / k };
  if ('allStages' in band) return band;
  return { ...band, good: band.good * k, fault: band.fault * k };
}

/** Edges of what is good. */
export function goodEdges(band: Band): readonly [number, number] {
  if ('least' in band) return [band.least, band.most];
  return 'middle' in band ? [band.middle - band.good, band.middle + band.good] : [0, band.good];
}

/** Where the fault begins, on the sides that have an edge. */
export function faultEdges(band: Band): readonly number[] {
  if ('least' in band) return [band.fault];
  return 'middle' in band ? [band.middle - band.fault, band.middle + band.fault] : [band.fault];
}

/** Whether the fault begins where the good ends, with nothing between. */
export const isSharp = (band: Band): boolean => ('least' in band ? band.least === band.fault : band.good === band.fault);

/** Distance of a value beyond the fault's edge on a side, + beyond. */
export function beyond(band: Band, side: 'above' | 'below' | 'either', value: number): number {
  if ('least' in band) return band.fault - value;
  const off = value - ('middle' in band ? band.middle : 0);
  return (side === 'above' ? off : side === 'below' ? -off : Math.abs(off)) - band.fault;
}
