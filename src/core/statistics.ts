/** Value below which a share q (0..1) of the numbers lies; NaN for none. */
export function quantile(values: readonly number[], q: number): number {
  if (values.length === 0) return Number.NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const at = q * (sorted.length - 1);
  const low = Math.floor(at);
  const high = Math.ceil(at);
  // Between two infinities of one sign lies nothing else.
  return sorted[low] === sorted[high] ? sorted[low]! : sorted[low]! + (sorted[high]! - sorted[low]!) * (at - low);
}

export const median = (values: readonly number[]): number => quantile(values, 0.5);
/** The standard deviation of normal numbers over their median distance from the middle. */
export const SIGMA_OF_MEDIAN = 1.4826;

export const mean = (values: readonly number[]): number => (values.length ? values.reduce((a, b) => a + b, 0) / values.length : Number.NaN);

/** Standard deviation about the mean, of a sample (n - 1); NaN for fewer than two. */
export function deviation(values: readonly number[]): number {
  const middle = mean(values);
  return values.length > 1 ? Math.sqrt(values.reduce((sum, v) => sum + (v - middle) ** 2, 0) / (values.length - 1)) : Number.NaN;
}

/** Spread over mean of positive numbers, 0 = all alike; NaN for none. */
export function relativeSpread(values: readonly number[]): number {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((v) => (v - middle) ** 2))) / middle;
}

/** Least-squares slope of y over x with its standard uncertainty from the scatter; undefined for fewer than three points or no spread in x. */
export function slope(x: readonly number[], y: readonly number[]): { slope: number; u: number } | undefined {
  const n = x.length;
  if (n < 3) return undefined;
  const mx = mean(x);
  const my = mean(y);
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i++) {
    sxx += (x[i]! - mx) ** 2;
    sxy += (x[i]! - mx) * (y[i]! - my);
  }
  if (sxx < 1e-9) return undefined;
  const k = sxy / sxx;
  let rest = 0;
  for (let i = 0; i < n; i++) rest += (y[i]! - my - k * (x[i]! - mx)) ** 2;
  return { slope: k, u: Math.sqrt(rest / Math.max(1, n - 2) / sxx) };
}

/** Chance that a standard normal number lies below z (Abramowitz and Stegun 26.2.17, error below 1e-7; cited from memory). */
export function normalCdf(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const tail = (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return z >= 0 ? 1 - tail : tail;
}
