export { correlate, slide, vote } from './correlation';
export { cutAcross, cutPatch } from './lines';
export { normalise, normaliseWork } from './normalise';
export { columns, layOver, likeness, medianResidual, products, weigh } from './registration';

/** Where free memory begins. */
export function heapBase(): usize {
  return __heap_base;
}
