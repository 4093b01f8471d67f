import * as THREE from 'three';
import type { InstrumentLooks } from '../instrument/looks';
import { Tube } from './tube';

/** The bow in its own frame: x along the hair from frog to tip, z from the hair to the stick, y across. */
export class BowMesh {
  readonly group = new THREE.Group();

  constructor(hair: number, scale: number, looks: InstrumentLooks['bow']) {
    const k = scale;
    const wood = new THREE.MeshPhongMaterial({ color: looks.stick, shininess: 60, specular: 0x664433 });
    const black = new THREE.MeshPhongMaterial({ color: looks.frog, shininess: 50, specular: 0x444444 });
    const silver = new THREE.MeshPhongMaterial({ color: 0x9fa2a7, shininess: 90, specular: 0xffffff });
    const ivory = new THREE.MeshLambertMaterial({ color: 0xe9e2d2 });
    const stick = new Tube(wood, 40, 8);
    const height = (s: number) => (21 - 40 * s * (1 - s) + -3 * s) * k;
    const path = Array.from({ length: 9 }, (_, i) => i / 8);
    stick.set(
      [[-46 * k, 0, 21 * k], ...path.map((s): [number, number, number] => [s * (hair + 8 * k), 0, height(s)])],
      [4.4, ...path.map((s) => 4.4 - 1.7 * s)].map((r) => r * k * looks.thick),
    );
    this.group.add(stick.mesh);
    const head = new THREE.Shape();
    head.moveTo(-3 * k, 0);
    head.lineTo(9 * k, 0);
    head.quadraticCurveTo(20 * k, 8 * k, 17 * k, 22 * k);
    head.lineTo(2 * k, 22 * k);
    head.quadraticCurveTo(8 * k, 9 * k, -3 * k, 4 * k);
    const headMesh = new THREE.Mesh(new THREE.ExtrudeGeometry(head, { depth: 8 * k, bevelEnabled: false }), wood);
    headMesh.position.set(hair, 4 * k, 0);
    headMesh.rotation.x = Math.PI / 2;
    this.group.add(headMesh);
    const plate = new THREE.Mesh(new THREE.BoxGeometry(14 * k, 9 * k, 1.2), ivory);
    plate.position.set(hair + 3 * k, 0, 0);
    this.group.add(plate);
    const frog = new THREE.Mesh(new THREE.BoxGeometry(44 * k, 11 * k, 16 * k), black);
    frog.position.set(-23 * k, 0, 9 * k);
    this.group.add(frog);
    const eye = new THREE.Mesh(new THREE.CylinderGeometry(3.2 * k, 3.2 * k, 11.6 * k, 16), ivory);
    eye.position.set(-22 * k, 0, 10 * k);
    this.group.add(eye);
    const ferrule = new THREE.Mesh(new THREE.CylinderGeometry(6 * k, 6 * k, 12 * k, 16, 1, false), silver);
    ferrule.rotation.z = Math.PI / 2;
    ferrule.scale.set(0.7, 1, 1.1);
    ferrule.position.set(-1 * k, 0, 3.6 * k);
    this.group.add(ferrule);
    const screw = new THREE.Mesh(new THREE.CylinderGeometry(4.6 * k, 4.6 * k, 14 * k, 12), silver);
    screw.rotation.z = Math.PI / 2;
    screw.position.set(-54 * k, 0, 21 * k);
    this.group.add(screw);
    const grip = new THREE.Mesh(new THREE.CylinderGeometry(4.9 * k, 4.9 * k, 58 * k, 12), silver);
    grip.rotation.z = Math.PI / 2;
    grip.position.set(40 * k, 0, height(0.06));
    this.group.add(grip);
    // Hair: a ribbon with fine strands.
    const canvas = new OffscreenCanvas(64, 64);
    const c = canvas.getContext('2d')!;
    c.fillStyle = looks.hair;
    c.fillRect(0, 0, 64, 64);
    for (let y = 0; y < 64; y += 3) {
      c.fillStyle = `rgba(120,110,90,${0.1 + (0.25 * ((y * 7) % 5)) / 5})`;
      c.fillRect(0, y, 64, 1);
    }
    const strands = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
    strands.colorSpace = THREE.SRGBColorSpace;
    const ribbon = new THREE.Mesh(new THREE.BoxGeometry(hair, 8 * k, 0.7), new THREE.MeshLambertMaterial({ map: strands }));
    ribbon.position.set(hair / 2, 0, 0);
    this.group.add(ribbon);
    stick.mesh.castShadow = true;
    ribbon.castShadow = true;
  }
}
