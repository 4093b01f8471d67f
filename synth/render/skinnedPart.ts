import { MeshoptSimplifier } from 'meshoptimizer';
import * as THREE from 'three';
import { type Bone, boneMatrix, skinWeights } from '../surface/skeleton';
import type { Surface } from '../surface/surfaceNets';

/** Flat places keep only the triangles they need: how far (mm) the skin may lie off. */
const SLACK = 0.45;

function simplified({ index, positions }: Surface): Uint32Array {
  const size = MeshoptSimplifier.getScale(positions, 3);
  return MeshoptSimplifier.simplify(index, positions, 3, 3 * 200, SLACK / size)[0];
}

/** Waits until skins can be made. */
export const skinsReady = (): Promise<void> => MeshoptSimplifier.ready;

/** One skin over rigid bones; it is moved by telling where its bones are. */
export class SkinnedPart {
  readonly mesh: THREE.SkinnedMesh;
  private readonly bones: THREE.Bone[];

  constructor(surface: Surface, rest: readonly Bone[], material: THREE.Material) {
    const geometry = new THREE.BufferGeometry();
    const { bones, shares } = skinWeights(surface.positions, rest);
    geometry.setAttribute('position', new THREE.BufferAttribute(surface.positions, 3));
    geometry.setAttribute('rest', new THREE.BufferAttribute(surface.positions, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(surface.normals, 3));
    geometry.setAttribute('openness', new THREE.BufferAttribute(surface.openness, 1));
    geometry.setAttribute('skinIndex', new THREE.Uint16BufferAttribute(bones, 4));
    geometry.setAttribute('skinWeight', new THREE.BufferAttribute(shares, 4));
    geometry.setIndex(new THREE.BufferAttribute(simplified(surface), 1));
    this.mesh = new THREE.SkinnedMesh(geometry, material);
    this.bones = rest.map(() => {
      const bone = new THREE.Bone();
      bone.matrixAutoUpdate = false;
      bone.matrixWorldAutoUpdate = false;
      return bone;
    });
    const inverses = rest.map((b) => new THREE.Matrix4().fromArray(boneMatrix(b)).invert());
    this.mesh.bind(new THREE.Skeleton(this.bones, inverses), new THREE.Matrix4());
    this.mesh.bindMode = 'detached';
    this.mesh.castShadow = true;
    this.mesh.receiveShadow = true;
    this.mesh.frustumCulled = false;
  }

  /** Moves the bones, in the order of the rest ones; `size` scales each about its origin. */
  move(bones: readonly Bone[], size = 1): void {
    bones.forEach((b, i) => {
      const m = this.bones[i]!.matrixWorld.fromArray(boneMatrix(b));
      if (size !== 1) m.scale(new THREE.Vector3(size, size, size));
    });
  }
}
