import type { Vec2 } from '../geometry/vec3';
import { median } from '../statistics';
import { type BodySighting, type Joints, joinLooks, seenChest, seenTorso } from './sighting';

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
      return apart(joints[`wrist.${side}`].point, place) / seenTorso(joints);
    };
    // A left-handed player's bow hand is the left.
    return Math.min(away('right', bow) + away('left', neck), away('left', bow) + away('right', neck));
  });
  return people[distances.indexOf(Math.min(...distances))];
}

/** Someone whose chest is further than this from where another's was, share of the torso, is somebody else: swaying takes it half as far (ours). */
const ELSEWHERE = 0.8;

const apart = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Of the people seen in another look at the same picture the one who is `known` from the first; undefined where that one was missed. */
function samePerson(people: readonly Joints[], known: Joints): Joints | undefined {
  const chest = seenChest(known);
  const distances = people.map((p) => apart(seenChest(p), chest));
  const nearest = Math.min(...distances);
  return nearest < ELSEWHERE * seenTorso(known) ? people[distances.indexOf(nearest)] : undefined;
}

/** Player and bystanders from two looks at the same picture: a person missed in one look may show in the other, and one seen in both is the mean of both. */
export function playerAmong(first: readonly Joints[], second: readonly Joints[], hands: KnownHands): Pick<BodySighting, 'joints' | 'others'> {
  const player = whoPlays([...first, ...second], hands);
  if (!player) return {};
  const again = samePerson(first.includes(player) ? second : first, player);
  const others = [...first, ...second.filter((p) => !samePerson(first, p))].filter((p) => !samePerson([p], player));
  return { joints: again ? joinLooks(player, again) : player, ...(others.length > 0 ? { others } : {}) };
}

/** The sightings without those of a bystander alone, in films that show several people: where the player was missed, the other must not be measured. */
export function withoutBystanders(bodies: readonly BodySighting[]): BodySighting[] {
  const sure = bodies.flatMap((b) => (b.joints && b.others?.length ? [b.joints] : []));
  if (sure.length === 0) return [...bodies];
  const [x, y] = [0, 1].map((axis) => median(sure.map((joints) => seenChest(joints)[axis]!)));
  const reach = ELSEWHERE * median(sure.map(seenTorso));
  return bodies.map((body) => {
    const { joints, ...rest } = body;
    if (!joints || body.others?.length || apart(seenChest(joints), [x!, y!]) < reach) return body;
    return { ...rest, others: [joints] };
  });
}
