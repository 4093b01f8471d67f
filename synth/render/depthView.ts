import * as THREE from 'three';

/** Depths of a scene as a camera sees it, to ask what can be seen. */
export class DepthView {
  private readonly target: THREE.WebGLRenderTarget;
  private readonly material = new THREE.MeshDepthMaterial({ depthPacking: THREE.RGBADepthPacking, side: THREE.DoubleSide });
  private readonly pixels: Uint8Array;

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.target = new THREE.WebGLRenderTarget(width, height, { minFilter: THREE.NearestFilter, magFilter: THREE.NearestFilter });
    this.pixels = new Uint8Array(4 * width * height);
  }

  render(renderer: THREE.WebGLRenderer, scene: THREE.Scene, camera: THREE.Camera): void {
    const { background } = scene;
    scene.background = null;
    scene.overrideMaterial = this.material;
    renderer.setRenderTarget(this.target);
    renderer.setClearColor(0xffffff, 1);
    renderer.clear();
    renderer.render(scene, camera);
    renderer.readRenderTargetPixels(this.target, 0, 0, this.width, this.height, this.pixels);
    renderer.setRenderTarget(null);
    scene.overrideMaterial = null;
    scene.background = background;
  }

  /** Whether nothing lies more than `grace` mm before a point of the room that is in the picture. */
  sees(point: readonly [number, number, number], camera: THREE.PerspectiveCamera, grace: number): boolean {
    const eye = new THREE.Vector3(...point).applyMatrix4(camera.matrixWorldInverse);
    const ndc = eye.clone().applyMatrix4(camera.projectionMatrix);
    const x = Math.floor(((ndc.x + 1) / 2) * this.width);
    const y = Math.floor(((ndc.y + 1) / 2) * this.height);
    if (eye.z >= 0 || x < 0 || y < 0 || x >= this.width || y >= this.height) return false;
    const at = 4 * (y * this.width + x);
    const p = this.pixels;
    // As three.js packs depth into bytes.
    const depth = (p[at]! / 255 + p[at + 1]! / 255 / 256 + p[at + 2]! / 255 / 65536) * (255 / 256) + p[at + 3]! / 255 / 16777216;
    const { near, far } = camera;
    const distance = (near * far) / (far - Math.min(1, depth) * (far - near));
    return distance > -eye.z - grace;
  }
}
