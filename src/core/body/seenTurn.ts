import { cross, mix, subtract, type Vec3 } from '../geometry/vec3';
import { median } from '../statistics';
import { headingFrom } from './torso';

/**
 * Body networks flatten what they see of a player: they tell so much of the trunk's turn, and a player who stands squarely
 * to the camera as turned by so many degrees, the arms' doing (ours, from 41 films of two renderers: 0.53 in both, 10.5 in
 * one and 5 in the other). `sigma` is what is left in doubt (degrees); turns told as wider than `widest` are no longer told so.
 */
const SEEN_TURN = { share: 0.53, squarely: 8.5, sigma: 11, widest: 50 } as const;

/** How far a line from the player's right to left is turned about the vertical against the line of sight, degrees: 0 squarely to the camera, + with its left end further away. */
export const turnFrom = (toLeft: Vec3, sight: Vec3, up: Vec3): number => headingFrom(cross(sight, up), toLeft, up);

type Corner = 'shoulder.left' | 'shoulder.right' | 'hip.left' | 'hip.right';
/** Where the trunk's corners are in the network's own space; undefined where one was not seen. */
export type TrunkInSpace = (corner: Corner) => Vec3 | undefined;

/** The trunk's turn as the network's own guesses in space tell it, degrees as in {@link turnFrom}, the median of several looks: half from the shoulders, half from the hips. Undefined where they are not seen or turned too far for that. */
export function seenTurn(looks: readonly TrunkInSpace[], up: Vec3): number | undefined {
  // The network's axes are those of a camera that looks straight at the player.
  const across = (right: Vec3 | undefined, left: Vec3 | undefined): number[] => (right && left ? [turnFrom(subtract(left, right), [0, 0, 1], up)] : []);
  const shoulders = looks.flatMap((at) => across(at('shoulder.right'), at('shoulder.left')));
  const hips = looks.flatMap((at) => across(at('hip.right'), at('hip.left')));
  if (shoulders.length === 0 || hips.length === 0) return undefined;
  const told = (median(shoulders) + median(hips)) / 2;
  return Math.abs(told) < SEEN_TURN.widest ? (told - SEEN_TURN.squarely) / SEEN_TURN.share : undefined;
}

/** A least-squares residual that holds a player's shoulders to a turn that was seen. */
export const turnResidual = (right: Vec3, left: Vec3, turn: number, up: Vec3): number => (turnFrom(subtract(left, right), mix(right, left, 0.5), up) - turn) / SEEN_TURN.sigma;
