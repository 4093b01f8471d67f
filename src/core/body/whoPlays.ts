import type { Vec2 } from '../geometry/vec3';
import { median } from '../statistics';
import { type BodySighting, type Joints, seenTorso } from './sighting';

/** Where the hands must be, px; absent where instrument or bow were lost. */
export interface KnownHands {
  readonly bow?: Vec2 | undefined;
  readonly neck?: Vec2 | undefined;
}

/** Of the people seen in a picture the one who plays: whose wrists are nearest to where the hands must be, either hand at the bow; the first, who is plainest to see, where nothing tells. */
export function whoPlays(people: readonly Joints[], { bow, neck }: KnownHands): Joints | undefined {
  if ((!bow && !neck) || people.length < 2) return people[0];
  const distances = people.map((joints) => {
    const away = (side: 'left' | 'right', place: Vec2 | undefined) => {
      if (!place) return 0;
      const wrist = joints[`wrist.${side}`].point;
      return Math.hypot(wrist[0] - place[0], wrist[1] - place[1]) / seenTorso(joints);
    };
    // A left-handed player's bow hand is the left.
    return Math.min(away('right', bow) + away('left', neck), away('left', bow) + away('right', neck));
  });
  return people[distances.indexOf(Math.min(...distances))];
}

/** Someone whose chest is further than this from where the player's usually is, share of the torso, is somebody else: swaying takes it half as far (ours). */
const ELSEWHERE = 0.8;

/** The sightings without those of a bystander alone, in films that show several people: where the player was missed, the other must not be measured. */
export function withoutBystanders(bodies: readonly BodySighting[]): BodySighting[] {
  const sure = bodies.flatMap((b) => (b.joints && b.others?.length ? [b.joints] : []));
  if (sure.length === 0) return [...bodies];
  const [x, y] = [0, 1].map((axis) => median(sure.map((joints) => chestOf(joints)[axis]!)));
  const reach = ELSEWHERE * median(sure.map(seenTorso));
  return bodies.map((body) => {
    const { joints, ...rest } = body;
    if (!joints || body.others?.length) return body;
    const chest = chestOf(joints);
    return Math.hypot(chest[0] - x!, chest[1] - y!) < reach ? body : { ...rest, others: [joints] };
  });
}

function chestOf(joints: Joints): Vec2 {
  const [a, b] = [joints['shoulder.left'].point, joints['shoulder.right'].point];
  return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
}
