import { FaceDetector, HandLandmarker, PoseLandmarker } from '@mediapipe/tasks-vision';
import ModuleFactory from '@mediapipe/tasks-vision/vision_wasm_module_internal.js';
import wasmUrl from '@mediapipe/tasks-vision/vision_wasm_module_internal.wasm?url';
import faceModel from '../../../.cache/models/face.tflite?url';
import handModel from '../../../.cache/models/hand.task?url';
import poseModel from '../../../.cache/models/pose.task?url';
import { type BodyJoint, type BodySighting, everyJoint, type JointSighting, type Joints, LOOKS, type Look, mirrorJoints } from '../../core/body/sighting';
import { type KnownHands, playerAmong } from '../../core/body/whoPlays';
import type { Vec2 } from '../../core/geometry/vec3';
import { drawMirrored } from '../film/mirror';

/** Where the body network lists our joints (33 landmarks). */
const PLACE: Readonly<Record<BodyJoint, number>> = {
  nose: 0,
  'ear.left': 7,
  'ear.right': 8,
  'shoulder.left': 11,
  'shoulder.right': 12,
  'elbow.left': 13,
  'elbow.right': 14,
  'wrist.left': 15,
  'wrist.right': 16,
  'hip.left': 23,
  'hip.right': 24,
  'knee.left': 25,
  'knee.right': 26,
  'ankle.left': 27,
  'ankle.right': 28,
  'toe.left': 31,
  'toe.right': 32,
};

/** People looked for: a teacher or another player may stand beside the one who plays. */
const PEOPLE = 2;

/** A face less likely than this is none (ours). */
const LEAST_FACE = 0.4;

const FILES = { wasmLoaderPath: '', wasmBinaryPath: wasmUrl };

/** The package takes its module from the global scope and removes it: it is set again for each network, one after the other. */
const offerModule = () => {
  (globalThis as { ModuleFactory?: unknown }).ModuleFactory = ModuleFactory;
};

async function openPose(): Promise<PoseLandmarker> {
  offerModule();
  return PoseLandmarker.createFromOptions(FILES, { baseOptions: { modelAssetPath: poseModel, delegate: 'CPU' }, runningMode: 'IMAGE', numPoses: PEOPLE });
}

/** A general body network, run in a worker, on still pictures so that results repeat exactly. */
export class BodyNetwork {
  private readonly mirror = new OffscreenCanvas(1, 1);

  protected constructor(private readonly pose: PoseLandmarker) {}

  /** @throws Error when the browser offers no WebGL or memory runs out: everything else goes on without. */
  static async open(): Promise<BodyNetwork> {
    return new BodyNetwork(await openPose());
  }

  /** Joints of the people in a picture, the plainest to see first; empty when nobody is found. */
  findBodies(picture: OffscreenCanvas | ImageBitmap): Joints[] {
    const { landmarks, worldLandmarks } = this.pose.detect(picture);
    return landmarks.flatMap((points, person) => {
      const space = worldLandmarks[person];
      if (!space) return [];
      const joint = (name: BodyJoint): JointSighting => {
        const p = points[PLACE[name]]!;
        const s = space[PLACE[name]]!;
        return { point: [p.x * picture.width, p.y * picture.height], space: [1000 * s.x, 1000 * s.y, 1000 * s.z], seen: p.visibility };
      };
      return [everyJoint(joint)];
    });
  }

  /**
   * Joints of the one who plays and of others. Of both looks the mean is taken: it errs less, and the difference tells by
   * how much. With one look asked for the other is taken only where that finds nobody.
   */
  findPlayer(picture: OffscreenCanvas | ImageBitmap, hands: KnownHands, asked?: Look): Pick<BodySighting, 'joints' | 'others' | 'look'> {
    if (!asked) return playerAmong(this.seenIn(picture, 'plain'), this.seenIn(picture, 'mirrored'), hands);
    const people = this.seenIn(picture, asked);
    const look = people.length > 0 ? asked : LOOKS.find((l) => l !== asked)!;
    const player = playerAmong(people.length > 0 ? people : this.seenIn(picture, look), [], hands);
    return player.joints ? { ...player, look } : player;
  }

  /** The people in a picture, at their places there, by the picture itself or by its mirror image. */
  private seenIn(picture: OffscreenCanvas | ImageBitmap, look: Look): Joints[] {
    if (look === 'plain') return this.findBodies(picture);
    const { width, height } = picture;
    if (this.mirror.width !== width || this.mirror.height !== height) [this.mirror.width, this.mirror.height] = [width, height];
    drawMirrored(this.mirror.getContext('2d', { willReadFrequently: true })!, picture);
    return this.findBodies(this.mirror).map((joints) => mirrorJoints(joints, width));
  }

  close(): void {
    this.pose.close();
  }
}

/** The same with a general hand network and a face network beside it. */
export class BodyNetworks extends BodyNetwork {
  private constructor(
    pose: PoseLandmarker,
    private readonly hand: HandLandmarker,
    private readonly face: FaceDetector,
  ) {
    super(pose);
  }

  /** @throws as {@link BodyNetwork.open}. */
  static override async open(): Promise<BodyNetworks> {
    const pose = await openPose();
    offerModule();
    const hand = await HandLandmarker.createFromOptions(FILES, {
      baseOptions: { modelAssetPath: handModel, delegate: 'CPU' },
      runningMode: 'IMAGE',
      numHands: 1,
      minHandDetectionConfidence: 0.3,
      minHandPresenceConfidence: 0.3,
    });
    offerModule();
    const face = await FaceDetector.createFromOptions(FILES, {
      baseOptions: { modelAssetPath: faceModel, delegate: 'CPU' },
      runningMode: 'IMAGE',
      minDetectionConfidence: LEAST_FACE,
    });
    return new BodyNetworks(pose, hand, face);
  }

  /** The 21 points of the hand in a small picture, as shares of its width and height; undefined when none is found. */
  findHand(picture: OffscreenCanvas | ImageBitmap): Vec2[] | undefined {
    return this.hand.detect(picture).landmarks[0]?.map((p): Vec2 => [p.x, p.y]);
  }

  /** The points of the plainest face in a small picture (see FACE_POINTS), as shares of its width and height; undefined when none is found. */
  findFace(picture: OffscreenCanvas | ImageBitmap): Vec2[] | undefined {
    return this.face.detect(picture).detections[0]?.keypoints?.map((p): Vec2 => [p.x, p.y]);
  }

  override close(): void {
    super.close();
    this.hand.close();
    this.face.close();
  }
}
