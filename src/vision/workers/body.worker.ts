import * as Comlink from 'comlink';
import type { BodySighting } from '../../core/body/sighting';
import { BOW_HAND_CUTS, type BowHandPlace, holdsBow, placeByArm } from '../body/bowHand';
import { CutOrder, PLAIN } from '../body/cutOrder';
import { facePlace, isThere } from '../body/face';
import { HandNetwork } from '../body/handNetwork';
import { isAtNeck, NECK_CUTS } from '../body/neckHand';
import { BodyNetworks } from '../body/networks';
import { PartFinder, type PartNetwork } from '../body/partFinder';
import type { Glance, HandPlaces, Seen } from '../body/seeBody';

const bowHands = new PartFinder(new CutOrder(BOW_HAND_CUTS, 5, 2), holdsBow);
// Looked for only now and then.
const neckHands = new PartFinder(new CutOrder(NECK_CUTS, 8), isAtNeck);
const faces = new PartFinder(new CutOrder([PLAIN], 1), isThere);
let opening: Promise<readonly [BodyNetworks, HandNetwork | undefined]> | undefined;
/** The package's networks take their module from the global scope, so ours waits for them; where it cannot start the rest goes on. */
const openAll = async () => {
  const networks = await BodyNetworks.open();
  return [networks, await HandNetwork.open().catch(() => undefined)] as const;
};

/** The bow hand, and where it was looked for: at the frog, or where the arm leads to if the frog was taken to be elsewhere. */
function findBowHand(picture: ImageBitmap, place: BowHandPlace, joints: BodySighting['joints'], network: PartNetwork) {
  const bowHand = bowHands.find(picture, place, network);
  const there = bowHand || !joints ? undefined : placeByArm(place, joints);
  const byArm = there && bowHands.find(picture, there, network);
  return byArm ? { bowHand: byArm, square: there.square } : { bowHand, square: place.square };
}

/** What a body worker offers: one picture at a time. */
const api = {
  /** Loads the networks; rejects where this browser cannot run them. */
  async open(): Promise<void> {
    opening ??= openAll();
    await opening;
  },
  async see(picture: ImageBitmap, { bow, neck }: HandPlaces, { neckToo, look }: Glance): Promise<Seen> {
    opening ??= openAll();
    const [networks, own] = await opening;
    try {
      const people = networks.findPlayer(picture, { bow: bow?.centre, neck: neck?.centre }, look);
      const handOf = (cut: OffscreenCanvas) => networks.findHand(cut);
      const { bowHand, square } = bow ? findBowHand(picture, bow, people.joints, handOf) : {};
      const heldBow = square && (await own?.look(picture, square));
      const neckHand = neckToo && neck && neckHands.find(picture, neck, handOf);
      const face = people.joints && faces.find(picture, facePlace(people.joints), (cut) => networks.findFace(cut));
      return { ...people, ...(heldBow ? { heldBow } : {}), ...(bowHand ? { bowHand } : {}), ...(neckHand ? { neckHand } : {}), ...(face ? { face } : {}) };
    } finally {
      picture.close();
    }
  },
};

export type BodyWorker = typeof api;
Comlink.expose(api);
