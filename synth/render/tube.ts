import * as THREE from 'three';

/** A smooth tube through points with a radius at each: limbs, fingers, sticks. Rewritten in place every frame. */
export class Tube {
  readonly mesh: THREE.Mesh;
  private readonly position: THREE.BufferAttribute;

  constructor(
    material: THREE.Material,
    private readonly rings = 14,
    private readonly sides = 14,
    private readonly flatten = 1,
  ) {
    const geometry = new THREE.BufferGeometry();
    const count = (rings + 2) * sides;
    this.position = new THREE.BufferAttribute(new Float32Array(3 * count), 3);
    geometry.setAttribute('position', this.position);
    geometry.setAttribute(
      'uv',
      new THREE.BufferAttribute(
        Float32Array.from({ length: 2 * count }, (_, i) => (i % 2 === 0 ? ((i >> 1) % sides) / sides : Math.floor((i >> 1) / sides) / rings)),
        2,
      ),
    );
    const index: number[] = [];
    for (let r = 0; r < rings + 1; r++) {
      for (let s = 0; s < sides; s++) {
        const a = r * sides + s;
        const b = r * sides + ((s + 1) % sides);
        index.push(a, b, a + sides, b, b + sides, a + sides);
      }
    }
    geometry.setIndex(index);
    this.mesh = new THREE.Mesh(geometry, material);
    this.mesh.castShadow = true;
    this.mesh.receiveShadow = true;
    this.mesh.frustumCulled = false;
  }

  set(points: readonly (readonly [number, number, number])[], radii: readonly number[]): void {
    const curve = new THREE.CatmullRomCurve3(
      points.map((p) => new THREE.Vector3(...p)),
      false,
      'centripetal',
    );
    const lengths = [0];
    for (let i = 1; i < points.length; i++)
      lengths.push(lengths[i - 1]! + Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1], points[i]![2] - points[i - 1]![2]));
    const total = lengths[lengths.length - 1]!;
    const radiusAt = (share: number) => {
      const d = share * total;
      let i = 1;
      while (i < lengths.length - 1 && lengths[i]! < d) i++;
      const t = (d - lengths[i - 1]!) / (lengths[i]! - lengths[i - 1]! || 1);
      const e = t * t * (3 - 2 * t);
      return radii[i - 1]! + (radii[i]! - radii[i - 1]!) * e;
    };
    const normal = new THREE.Vector3();
    const side = new THREE.Vector3();
    let before: THREE.Vector3 | undefined;
    const put = (at: number, p: THREE.Vector3) => this.position.setXYZ(at, p.x, p.y, p.z);
    const v = new THREE.Vector3();
    for (let r = 0; r < this.rings; r++) {
      const share = r / (this.rings - 1);
      const p = curve.getPointAt(share);
      const tangent = curve.getTangentAt(share);
      if (!before) normal.set(0, 0, 1).cross(tangent).normalize();
      else normal.copy(before).addScaledVector(tangent, -before.dot(tangent)).normalize();
      if (normal.lengthSq() < 0.5) normal.set(1, 0, 0);
      before = normal.clone();
      side.copy(tangent).cross(normal);
      const radius = radiusAt(share);
      for (let s = 0; s < this.sides; s++) {
        const a = (2 * Math.PI * s) / this.sides;
        v.copy(p)
          .addScaledVector(normal, radius * Math.cos(a))
          .addScaledVector(side, radius * this.flatten * Math.sin(a));
        put((r + 1) * this.sides + s, v);
      }
      if (r === 0 || r === this.rings - 1) {
        // Round caps: one more ring drawn in toward the end.
        const at = r === 0 ? 0 : (this.rings + 1) * this.sides;
        const out = r === 0 ? -0.35 : 0.35;
        for (let s = 0; s < this.sides; s++) put(at + s, v.copy(p).addScaledVector(tangent, radius * out));
      }
    }
    this.position.needsUpdate = true;
    this.mesh.geometry.computeVertexNormals();
  }
}
