import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  Group,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import type { PartChange } from "../api/schema";

export interface Hues {
  a: string;
  b: string;
  same: string;
  ground: string;
}

/** How one part of one side is shown; undefined means not at all. */
export interface Look {
  hue: "a" | "b" | "same";
  opacity: number;
}

export type Show = "both" | "a" | "b";

/**
 * What of each side is drawn and how: the same once and dim, what only A has in A's hue, what only
 * or differently B has in B's. Pure.
 */
export function looks(
  changes: PartChange[],
  show: Show,
): { a: Map<string, Look>; b: Map<string, Look> } {
  const a = new Map<string, Look>();
  const b = new Map<string, Look>();
  for (const part of changes) {
    const differs = part.outcome !== "SAME";
    if (part.a !== undefined && show !== "b") {
      if (differs && part.outcome !== "ADDED")
        a.set(part.a, { hue: "a", opacity: part.b ? 0.55 : 1 });
      else if (show === "a") a.set(part.a, { hue: "same", opacity: 1 });
    }
    if (part.b !== undefined && show !== "a") {
      b.set(
        part.b,
        differs
          ? { hue: "b", opacity: part.a && show === "both" ? 0.85 : 1 }
          : { hue: "same", opacity: 1 },
      );
    }
  }
  return { a, b };
}

/** Draws two states in one view, with one camera. */
export class CompareScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(35, 1, 0.01, 1000);
  private readonly controls: OrbitControls;
  private readonly sides = { a: new Group(), b: new Group() };
  private readonly watch: ResizeObserver;
  private framed = false;
  private disposed = false;

  constructor(private readonly holder: HTMLElement) {
    this.renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    holder.append(this.renderer.domElement);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.addEventListener("change", () => this.render());
    const sun = new DirectionalLight(0xffffff, 2.4);
    sun.position.set(3, 6, 8);
    const back = new DirectionalLight(0xffffff, 0.8);
    back.position.set(-6, 2, -4);
    this.scene.add(new AmbientLight(0xffffff, 1.1), sun, back, this.sides.a, this.sides.b);
    this.watch = new ResizeObserver(() => this.resize());
    this.watch.observe(holder);
    this.resize();
  }

  /** Loads one side; part ids are node names. */
  async load(side: "a" | "b", url: string): Promise<void> {
    const loaded = await new GLTFLoader().loadAsync(url);
    if (this.disposed) return;
    this.sides[side].clear();
    loaded.scene.traverse((node) => {
      if (node instanceof Mesh) {
        const name: unknown = node.userData["name"];
        const mesh = new Mesh(node.geometry, new MeshLambertMaterial({ flatShading: true }));
        mesh.userData["part"] = typeof name === "string" ? name : node.name;
        this.sides[side].add(mesh);
      }
    });
    this.frame();
  }

  paint(changes: PartChange[], show: Show, hues: Hues, chosen: string | undefined): void {
    this.scene.background = new Color(hues.ground);
    const found = looks(changes, show);
    for (const side of ["a", "b"] as const) {
      for (const child of this.sides[side].children) {
        if (!(child instanceof Mesh)) continue;
        const part = child.userData["part"] as string;
        const look = found[side].get(part);
        child.visible = look !== undefined;
        if (!look) continue;
        const material = child.material as MeshLambertMaterial;
        material.color = new Color(hues[look.hue]);
        material.emissive = new Color(part === chosen ? hues[look.hue] : "#000000");
        material.emissiveIntensity = 0.5;
        material.opacity = look.opacity;
        material.transparent = look.opacity < 1;
        material.depthWrite = look.opacity >= 1;
        material.needsUpdate = true;
      }
    }
    this.render();
  }

  private frame(): void {
    if (this.framed) return;
    const box = new Box3().setFromObject(this.scene);
    if (box.isEmpty()) return;
    const centre = box.getCenter(new Vector3());
    const reach = box.getSize(new Vector3()).length() || 1;
    this.camera.position.copy(centre).add(new Vector3(0.5, 0.4, 0.95).multiplyScalar(reach * 1.35));
    this.camera.near = reach / 1000;
    this.camera.far = reach * 20;
    this.camera.updateProjectionMatrix();
    this.controls.target.copy(centre);
    this.controls.update();
    this.framed = true;
  }

  /** Turns the view by steps, for the keyboard. */
  turn(byAngle: number): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    offset.applyAxisAngle(new Vector3(0, 1, 0), byAngle);
    this.camera.position.copy(this.controls.target).add(offset);
    this.controls.update();
    this.render();
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.holder;
    if (w === 0 || h === 0) return;
    this.renderer.setSize(w, h);
    this.camera.aspect = w / h;
    this.camera.updateProjectionMatrix();
    this.render();
  }

  private render(): void {
    this.renderer.render(this.scene, this.camera);
  }

  dispose(): void {
    this.disposed = true;
    this.watch.disconnect();
    this.controls.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }
}
