import {
  AmbientLight,
  Box3,
  BufferAttribute,
  type BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
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

/** How both are looked at; from both sides at once each has its own stretch of the picture. */
export type Layout =
  { kind: "one"; show: Show } | { kind: "beside" } | { kind: "edge"; at: number };

/**
 * How far each vertex of B went from where it was in A, in their unit; undefined where the two are
 * not made of the same vertices. Pure.
 */
export function shifts(a: ArrayLike<number>, b: ArrayLike<number>): Float32Array | undefined {
  if (a.length !== b.length) return undefined;
  const found = new Float32Array(a.length / 3);
  for (let i = 0; i < found.length; i++) {
    let sum = 0;
    for (let k = 0; k < 3; k++) {
      const d = (b[i * 3 + k] ?? 0) - (a[i * 3 + k] ?? 0);
      sum += d * d;
    }
    found[i] = Math.sqrt(sum);
  }
  return found;
}

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

/** From here on a model is drawn from fewer triangles while the view is moved. */
const HEAVY = 40_000;
/** The view counts as moved for so long after its last change, in milliseconds. */
const AT_REST = 180;

const trianglesOf = ({ geometry: g }: Mesh) =>
  (g.index?.count ?? g.getAttribute("position").count) / 3;

/** Of view, in degrees and in radians; in half the width twice as much is taken in. */
const FIELD = 35;
const WIDE = (FIELD * Math.PI) / 180;

const meshes = (group: Group): Mesh[] => group.children.filter((c): c is Mesh => c instanceof Mesh);

interface Forms {
  full: BufferGeometry;
  draft: BufferGeometry;
}
const formsOf = (mesh: Mesh) => mesh.userData["forms"] as Forms | undefined;

function letGo(mesh: Mesh): void {
  mesh.geometry.dispose();
  formsOf(mesh)?.full.dispose();
  formsOf(mesh)?.draft.dispose();
  (mesh.material as MeshLambertMaterial).dispose();
}

/** Draws two states in one view, with one camera. */
export class CompareScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(FIELD, 1, 0.01, 1000);
  private readonly controls: OrbitControls;
  private readonly sides = { a: new Group(), b: new Group() };
  private readonly watch: ResizeObserver;
  private layout: Layout = { kind: "one", show: "both" };
  private readonly loaded = new Set<"a" | "b">();
  /** Let go only when the new ones are drawn, so that what draws them need not be made anew. */
  private readonly replaced: Mesh[] = [];
  private readonly wanted: Partial<Record<"a" | "b", string>> = {};
  private framed = false;
  private moving = false;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private asked = 0;
  private disposed = false;

  constructor(private readonly holder: HTMLElement) {
    this.renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    holder.append(this.renderer.domElement);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.addEventListener("change", () => this.move());
    const sun = new DirectionalLight(0xffffff, 2.4);
    sun.position.set(3, 6, 8);
    const back = new DirectionalLight(0xffffff, 0.8);
    back.position.set(-6, 2, -4);
    this.scene.add(new AmbientLight(0xffffff, 1.1), sun, back, this.sides.a, this.sides.b);
    this.watch = new ResizeObserver(() => this.resize());
    this.watch.observe(holder);
    this.resize();
  }

  /** Loads one side; part ids are node names. Heavy models get a draft besides. */
  async load(side: "a" | "b", url: string): Promise<void> {
    this.wanted[side] = url;
    const loaded = await this.fetched(side, url);
    if (!loaded) return;
    this.replaced.push(...meshes(this.sides[side]));
    this.sides[side].clear();
    loaded.forEach((mesh) => this.sides[side].add(mesh));
    this.loaded.add(side);
    this.frame();
    if (loaded.reduce((sum, mesh) => sum + trianglesOf(mesh), 0) > HEAVY) {
      void this.loadDraft(side, url, loaded);
    }
  }

  private async fetched(side: "a" | "b", url: string, query = ""): Promise<Mesh[] | undefined> {
    const { scene } = await new GLTFLoader().loadAsync(url + query);
    if (this.disposed || this.wanted[side] !== url) return undefined;
    const found: Mesh[] = [];
    scene.traverse((node) => {
      if (node instanceof Mesh) {
        const name: unknown = node.userData["name"];
        const mesh = new Mesh(
          node.geometry as BufferGeometry,
          new MeshLambertMaterial({ flatShading: true }),
        );
        mesh.userData["part"] = typeof name === "string" ? name : node.name;
        found.push(mesh);
      }
    });
    return found;
  }

  /** Without it the view is moved slowly, and that is all. */
  private async loadDraft(side: "a" | "b", url: string, full: Mesh[]): Promise<void> {
    const drafts = await this.fetched(side, url, "?draft=true").catch(() => undefined);
    const byPart = new Map(drafts?.map((d) => [d.userData["part"] as string, d.geometry]));
    for (const mesh of full) {
      const draft = byPart.get(mesh.userData["part"] as string);
      if (draft) mesh.userData["forms"] = { full: mesh.geometry, draft } satisfies Forms;
    }
  }

  /**
   * @param layout how both are looked at
   * @param far true to show how far vertices went instead of what differs
   * @returns the farthest a vertex went, in their unit; undefined if that is not shown
   */
  paint(
    changes: PartChange[],
    layout: Layout,
    hues: Hues,
    chosen: string | undefined,
    far: boolean,
  ): number | undefined {
    this.layout = layout;
    this.scene.background = new Color(hues.ground);
    const found = looks(changes, layout.kind === "one" ? layout.show : "both");
    const alone = { a: looks(changes, "a").a, b: looks(changes, "b").b };
    for (const side of ["a", "b"] as const) {
      for (const child of this.sides[side].children) {
        if (!(child instanceof Mesh)) continue;
        const part = child.userData["part"] as string;
        const look = layout.kind === "one" ? found[side].get(part) : alone[side].get(part);
        child.visible = look !== undefined;
        if (!look) continue;
        const material = child.material as MeshLambertMaterial;
        material.vertexColors = false;
        material.color = new Color(hues[look.hue]);
        material.emissive = new Color(part === chosen ? hues[look.hue] : "#000000");
        material.emissiveIntensity = 0.5;
        material.opacity = look.opacity;
        material.transparent = look.opacity < 1;
        material.depthWrite = look.opacity >= 1;
        material.needsUpdate = true;
      }
    }
    const farthest = far ? this.paintShifts(changes, hues) : undefined;
    this.render();
    return farthest;
  }

  /** Vertices of B from the hue of the same to that of B, by how far they went. */
  private paintShifts(changes: PartChange[], hues: Hues): number | undefined {
    const inA = new Map(meshes(this.sides.a).map((m) => [m.userData["part"] as string, m]));
    const pairs = new Map(changes.map((c) => [c.b, c.a]));
    const moved: { mesh: Mesh; by: Float32Array }[] = [];
    for (const mesh of meshes(this.sides.b)) {
      const from = inA.get(pairs.get(mesh.userData["part"] as string) ?? "");
      const by =
        from &&
        shifts(
          from.geometry.getAttribute("position").array,
          mesh.geometry.getAttribute("position").array,
        );
      if (by) moved.push({ mesh, by });
    }
    let farthest = 0;
    for (const { by } of moved) for (const d of by) farthest = Math.max(farthest, d);
    if (moved.length === 0) return undefined;
    const still = new Color(hues.same);
    const gone = new Color(hues.b);
    for (const { mesh, by } of moved) {
      const colours = new Float32Array(by.length * 3);
      by.forEach((d, i) => {
        still
          .clone()
          .lerp(gone, farthest > 0 ? d / farthest : 0)
          .toArray(colours, i * 3);
      });
      mesh.geometry.setAttribute("color", new BufferAttribute(colours, 3));
      const material = mesh.material as MeshLambertMaterial;
      material.vertexColors = true;
      material.color = new Color("#ffffff");
      material.opacity = 1;
      material.transparent = false;
      material.depthWrite = true;
    }
    for (const mesh of inA.values()) mesh.visible = false;
    return farthest;
  }

  /** The part under a point of the picture, nearest first. */
  partAt(x: number, y: number): string | undefined {
    const { clientWidth: w, clientHeight: h } = this.holder;
    const half = this.layout.kind === "beside";
    const left = half && x >= w / 2 ? w / 2 : 0;
    const width = half ? w / 2 : w;
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2(((x - left) / width) * 2 - 1, 1 - (y / h) * 2), this.camera);
    const on = this.sidesAt(x / w);
    const hit = caster
      .intersectObjects([...on.flatMap((side) => meshes(this.sides[side]))], false)
      .find((i) => i.object.visible);
    return hit?.object.userData["part"] as string | undefined;
  }

  private sidesAt(share: number): ("a" | "b")[] {
    if (this.layout.kind === "one") return ["a", "b"];
    const edge = this.layout.kind === "beside" ? 0.5 : this.layout.at;
    return share < edge ? ["a"] : ["b"];
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
    this.framed = this.loaded.size === 2;
  }

  /** Turns the view by steps, for the keyboard. */
  turn(byAngle: number): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    offset.applyAxisAngle(new Vector3(0, 1, 0), byAngle);
    this.camera.position.copy(this.controls.target).add(offset);
    this.controls.update();
  }

  /** Drawn once a frame, however often the view changes; in full when it comes to rest. */
  private move(): void {
    this.moving = true;
    clearTimeout(this.rest);
    this.rest = setTimeout(() => {
      this.moving = false;
      this.render();
    }, AT_REST);
    if (this.asked === 0) {
      this.asked = requestAnimationFrame(() => {
        this.asked = 0;
        this.render();
      });
    }
  }

  private takeForms(): void {
    for (const mesh of [...meshes(this.sides.a), ...meshes(this.sides.b)]) {
      const forms = formsOf(mesh);
      const coloured = (mesh.material as MeshLambertMaterial).vertexColors;
      if (forms) mesh.geometry = this.moving && !coloured ? forms.draft : forms.full;
    }
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.holder;
    if (w === 0 || h === 0) return;
    this.renderer.setSize(w, h);
    this.render();
  }

  private render(): void {
    const { clientWidth: w, clientHeight: h } = this.holder;
    if (w === 0 || h === 0 || this.disposed) return;
    this.takeForms();
    this.draw(w, h);
    this.replaced.splice(0).forEach(letGo);
  }

  private draw(w: number, h: number): void {
    const beside = this.layout.kind === "beside";
    this.camera.aspect = (beside ? w / 2 : w) / h;
    this.camera.fov = beside ? (2 * 180 * Math.atan(2 * Math.tan(WIDE / 2))) / Math.PI : FIELD;
    this.camera.updateProjectionMatrix();
    if (this.layout.kind === "one") {
      this.sides.a.visible = this.sides.b.visible = true;
      this.renderer.setScissorTest(false);
      this.renderer.setViewport(0, 0, w, h);
      this.renderer.render(this.scene, this.camera);
      return;
    }
    const edge = this.layout.kind === "beside" ? w / 2 : this.layout.at * w;
    this.renderer.setScissorTest(true);
    for (const side of ["a", "b"] as const) {
      this.sides.a.visible = side === "a";
      this.sides.b.visible = side === "b";
      const from = side === "a" ? 0 : edge;
      this.renderer.setScissor(from, 0, side === "a" ? edge : w - edge, h);
      this.renderer.setViewport(beside ? from : 0, 0, beside ? w / 2 : w, h);
      this.renderer.render(this.scene, this.camera);
    }
  }

  dispose(): void {
    this.disposed = true;
    clearTimeout(this.rest);
    cancelAnimationFrame(this.asked);
    this.watch.disconnect();
    this.controls.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }
}
