import * as Comlink from 'comlink';
import type { BodySighting } from '../../core/body/sighting';
import { BOW_HAND_CUTS, type BowHandPlace, holdsBow, placeByArm } from '../body/bowHand';
import { CutOrder, PLAIN } from '../body/cutOrder';
import { facePlace, isThere } from '../body/face';
import { isAtNeck, NECK_CUTS } from '../body/neckHand';
import { BodyNetworks } from '../body/networks';
import { PartFinder, type PartNetwork } from '../body/partFinder';
import type { Glance, HandPlaces, Seen } from '../body/seeBody';

const bowHands = new PartFinder(new CutOrder(BOW_HAND_CUTS, 5, 2), holdsBow);
// Looked for only now and then.
const neckHands = new PartFinder(new CutOrder(NECK_CUTS, 8), isAtNeck);
const faces = new PartFinder(new CutOrder([PLAIN], 1), isThere);
let opening: Promise<BodyNetworks> | undefined;

/** The bow hand where the arm leads to, if that is not where the bow's frog was taken to be. */
function findByArm(picture: ImageBitmap, place: BowHandPlace, joints: BodySighting['joints'], network: PartNetwork) {
  const there = joints && placeByArm(place, joints);
  return there && bowHands.find(picture, there, network);
}

/** What a body worker offers: one picture at a time. */
const api = {
  /** Loads the networks; rejects where this browser cannot run them. */
  async open(): Promise<void> {
    opening ??= BodyNetworks.open();
    await opening;
  },
  async see(picture: ImageBitmap, { bow, neck }: HandPlaces, { neckToo, look }: Glance): Promise<Seen> {
    opening ??= BodyNetworks.open();
    const networks = await opening;
    try {
      const people = networks.findPlayer(picture, { bow: bow?.centre, neck: neck?.centre }, look);
      const handOf = (cut: OffscreenCanvas) => networks.findHand(cut);
      const bowHand = bow && (bowHands.find(picture, bow, handOf) ?? findByArm(picture, bow, people.joints, handOf));
      const neckHand = neckToo && neck && neckHands.find(picture, neck, handOf);
      const face = people.joints && faces.find(picture, facePlace(people.joints), (cut) => networks.findFace(cut));
      return { ...people, ...(bowHand ? { bowHand } : {}), ...(neckHand ? { neckHand } : {}), ...(face ? { face } : {}) };
    } finally {
      picture.close();
    }
  },
};

export type BodyWorker = typeof api;
Comlink.expose(api);
