import type { Finding } from './finding';

/** Faults that bring others with them by their nature, in the same bows: the bow's path decides the contact point, the instrument's way the bow's. */
const BRINGS: Readonly<Record<string, readonly string[]>> = {
  'tip-to-scroll': ['bow-arcs', 'on-fingerboard', 'contact-drifts', 'contact-jumps'],
  'tip-to-player': ['bow-arcs', 'at-bridge', 'on-fingerboard', 'contact-drifts', 'contact-jumps'],
  'instrument-moves': ['tip-to-scroll', 'tip-to-player', 'contact-drifts'],
  'scroll-droops': ['on-fingerboard'],
  leaning: ['scroll-droops', 'instrument-too-flat', 'instrument-too-steep'],
  'left-elbow-on-ribs': ['scroll-droops', 'instrument-in-front'],
  'instrument-in-front': ['left-elbow-on-ribs', 'right-angle-missed', 'wrist-bent'],
  'instrument-too-far-left': ['wrist-bent'],
  'right-angle-missed': ['wrist-bent'],
  'head-clamped': ['shoulder-raised'],
  'hand-closed': ['fingers-too-deep', 'fingers-perched', 'wrist-bent'],
  'bow-arcs': ['on-fingerboard', 'at-bridge', 'contact-drifts', 'contact-jumps'],
  'hand-rigid': ['bow-arcs'],
  'contact-drifts': ['slow-recovery'],
  'level-lost': ['neighbour-touched', 'elbow-too-low', 'elbow-too-high'],
  'crossing-late': ['neighbour-touched', 'elbow-too-low', 'elbow-too-high'],
  'crossing-early': ['neighbour-touched', 'elbow-too-low', 'elbow-too-high'],
  'levels-not-distinct': ['neighbour-touched', 'elbow-too-low', 'elbow-too-high'],
  'elbow-behind': ['tip-to-scroll', 'bow-arcs'],
  'stroke-from-shoulder': ['tip-to-scroll', 'bow-arcs', 'elbow-behind', 'right-angle-missed', 'wrist-bent'],
};
/** Findings show in the same bows when so many of the fewer bows are shared (ours). */
const TOGETHER = 0.6;

/**
 * Which finding each of the others goes with: mended together, so that several read as one. A finding that goes with
 * one that itself goes with another is laid to the first of the row. Faults told to be causes by their own evidence
 * (an arm that swung is not an instrument that turned) are not laid to another cause.
 */
export function goesWith(findings: readonly Finding[]): ReadonlyMap<string, string> {
  const out = new Map<string, string>();
  const first = (fault: string): string => {
    let root = fault;
    for (let by = out.get(root); by; by = out.get(root)) root = by;
    return root;
  };
  // From the last: of two that bring each other the one told first stands.
  for (const finding of [...findings].reverse()) {
    const by = findings.find((f) => BRINGS[f.fault]?.includes(finding.fault) && shareBows(f, finding) && !contradicts(f, finding) && first(f.fault) !== finding.fault);
    if (by) out.set(finding.fault, by.fault);
  }
  return new Map(findings.filter((f) => out.has(f.fault)).map((f) => [f.fault, first(f.fault)]));
}

const shareBows = (a: Finding, b: Finding): boolean => {
  const bows = new Set(a.strokes);
  const both = b.strokes.filter((s) => bows.has(s)).length;
  return both >= TOGETHER * Math.max(1, Math.min(a.strokes.length, b.strokes.length));
};

/** The instrument's swing does not explain a bow that the arm turned. */
const contradicts = (by: Finding, finding: Finding): boolean => by.fault === 'instrument-moves' && (finding.cause === 'arm-swung' || finding.cause === 'shoulder-opened');
