import { BODY_JOINTS, type BodyJoint, type BodySighting, everyJoint, type JointSighting, type Joints, type Look } from './sighting';

/** A sighting of the other look this near (seconds, ours) tells where a joint was between. */
const BESIDE = 0.45;
/** What the looks differ by changes slowly: taken from sightings about so long to either side (seconds, 1 sigma; ours). */
const LASTING = 0.5;

interface Single {
  readonly t: number;
  readonly joints: Joints;
  readonly look: Look;
}

/** By how much the mirrored look puts each joint elsewhere than the plain one about a time (s): in the picture (px), then in the network's own space (mm). */
interface Difference {
  readonly t: number;
  readonly of: ReadonlyMap<BodyJoint, readonly number[]>;
}

/**
 * Sightings of one look each, in the picture and in its mirror image by turns, as if each had been seen in both: where the
 * other look would have had a joint is told by how far the looks about that time lie apart. Others are left as they are.
 */
export function joinAlternate(bodies: readonly BodySighting[]): BodySighting[] {
  const singles = bodies.flatMap(({ t, joints, look }): Single[] => (joints && look ? [{ t, joints, look }] : []));
  const differences = singles.flatMap((_, k) => differenceAbout(singles, k) ?? []);
  return bodies.map((body) => {
    const { joints, look, ...rest } = body;
    if (!joints || !look) return body;
    const near = differences.map(({ t, of }) => ({ of, weight: Math.exp(-0.5 * ((t - body.t) / LASTING) ** 2) })).filter((d) => d.weight > 1e-3);
    const total = near.reduce((sum, d) => sum + d.weight, 0);
    if (total === 0) return { ...rest, joints };
    const half = look === 'plain' ? 0.5 : -0.5;
    return {
      ...rest,
      joints: everyJoint((name): JointSighting => {
        const own = joints[name];
        const average = (value: (difference: readonly number[]) => number) => near.reduce((sum, d) => sum + (d.weight * value(d.of.get(name)!)) / total, 0);
        const [u, v, x, y, z] = placesOf(own).map((value, k) => value + half * average((d) => d[k]!)) as [number, number, number, number, number];
        // What chance adds to the difference is doubt too.
        return { ...own, point: [u, v], space: [x, y, z], apart: Math.sqrt(average((d) => d[0]! ** 2 + d[1]! ** 2)) };
      }),
    };
  });
}

const placesOf = ({ point, space }: JointSighting): readonly number[] => [...point, ...space];

/** The difference of the looks at the time of the k-th sighting; undefined without the other look to both sides. */
function differenceAbout(singles: readonly Single[], k: number): Difference | undefined {
  const { t, joints, look } = singles[k]!;
  const isOther = (s: Single) => s.look !== look && Math.abs(s.t - t) <= BESIDE;
  const before = singles.slice(0, k).findLast(isOther);
  const after = singles.slice(k + 1).find(isOther);
  if (!before || !after) return undefined;
  const share = (t - before.t) / Math.max(1e-6, after.t - before.t);
  const toMirrored = look === 'plain' ? 1 : -1;
  const of = BODY_JOINTS.map((name) => {
    const [p, q] = [before, after].map((s) => placesOf(s.joints[name])) as [readonly number[], readonly number[]];
    return [name, placesOf(joints[name]).map((own, i) => toMirrored * (p[i]! + (q[i]! - p[i]!) * share - own))] as const;
  });
  return { t, of: new Map(of) };
}
