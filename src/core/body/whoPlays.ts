import type { Vec2 } from '../geometry/vec3';
import { type Joints, seenTorso } from './sighting';

/** Where the hands must be, px; absent where instrument or bow were lost. */
export interface KnownHands {
  readonly bow?: Vec2 | undefined;
  readonly neck?: Vec2 | undefined;
}

/** With the bow on the string a player's wrists lie nearer than this to where the hands must be, share of the torso: networks that lose an arm put its wrist up to half of it away (ours). */
const FARTHEST = 1;

/**
 * Of the people seen in a picture the one who plays: whose wrists are nearest to where the hands must be, either hand at
 * the bow. Undefined when the bow is held and none of them is near it; the first, who is plainest to see, where nothing tells.
 */
export function whoPlays(people: readonly Joints[], { bow, neck }: KnownHands): Joints | undefined {
  if (!bow && !neck) return people[0];
  const distances = people.map((joints) => {
    const away = (side: 'left' | 'right', place: Vec2 | undefined) => {
      if (!place) return [];
      const wrist = joints[`wrist.${side}`].point;
      return [Math.hypot(wrist[0] - place[0], wrist[1] - place[1]) / seenTorso(joints)];
    };
    // A left-handed player's bow hand is the left.
    const ways = [
      [...away('right', bow), ...away('left', neck)],
      [...away('left', bow), ...away('right', neck)],
    ];
    return Math.min(...ways.map((all) => all.reduce((a, b) => a + b, 0) / all.length));
  });
  const nearest = Math.min(...distances);
  // At rest, and while the instrument is held without it, the left hand may be anywhere.
  return !bow || nearest < FARTHEST ? people[distances.indexOf(nearest)] : undefined;
}
