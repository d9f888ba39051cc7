import {
  AmbientLight,
  BoxGeometry,
  BufferGeometry,
  Color,
  CylinderGeometry,
  DirectionalLight,
  DoubleSide,
  ExtrudeGeometry,
  Group,
  Line,
  LineBasicMaterial,
  Mesh,
  MeshLambertMaterial,
  OrthographicCamera,
  Path,
  Raycaster,
  Scene as ThreeScene,
  Shape as FlatShape,
  SphereGeometry,
  TorusGeometry,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import type { Scene } from '../api'
import type { Ink } from '../app/theme'
import type { Axis, Look } from './look'

type Solid = Scene['solids'][number]

interface Told {
  choose: (point: string | null) => void
  put: (point: string, mm: number, drag: number) => void
  from: (point: string) => number
  turned: () => void
}

const UP = new Vector3(0, 0, 1)
const LOOKS: Record<Look, Vector3> = {
  front: new Vector3(1, 0, 0.0001),
  side: new Vector3(0, 1, 0.0001),
  top: new Vector3(0.0001, 0, 1),
  free: new Vector3(0.75, 0.85, 0.45),
}
const DRAG_MS = 40 // between two edits of a drag
const REACH_PX = 14 // how near the pointer must be to a joint

/** The canvas and what is on it; moves groups by the core's matrices and works out no geometry of its own. */
export class Stage {
  private readonly renderer: WebGLRenderer
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, -20_000, 20_000)
  private readonly controls: OrbitControls
  private readonly world = new ThreeScene()
  private readonly moving = new Group()
  private readonly ghost = new Group()
  private readonly marks = new Group()
  private readonly watch: ResizeObserver
  private groups = new Map<string, Group>()
  private handles: Mesh[] = []
  private scene: Scene | null = null
  private ink: Ink | null = null
  private centre = new Vector3()
  private size = 1000
  private drag: { point: string; start: Vector3; from: number; along: Vector3; sent: number } | null = null
  private drags = 0
  private axis: Axis = 'z'

  constructor(
    private readonly box: HTMLElement,
    private readonly told: Told,
  ) {
    this.renderer = new WebGLRenderer({ antialias: true, alpha: true })
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio))
    box.appendChild(this.renderer.domElement)
    this.camera.up.copy(UP)
    this.controls = new OrbitControls(this.camera, this.renderer.domElement)
    this.controls.addEventListener('change', this.draw)
    this.controls.addEventListener('start', () => !this.drag && this.told.turned())
    const key = new DirectionalLight(0xffffff, 2.2)
    key.position.set(0.6, 0.8, 1)
    const fill = new DirectionalLight(0xffffff, 0.9)
    fill.position.set(-0.6, -0.5, 0.4)
    this.world.add(new AmbientLight(0xffffff, 1.2), key, fill, this.ghost, this.moving, this.marks)
    this.watch = new ResizeObserver(this.resize)
    this.watch.observe(box)
    const canvas = this.renderer.domElement
    canvas.addEventListener('pointerdown', this.press, { capture: true })
    canvas.addEventListener('pointermove', this.pull)
    canvas.addEventListener('pointerup', this.drop)
    canvas.addEventListener('pointercancel', this.drop)
  }

  end() {
    cancelAnimationFrame(this.frame)
    this.watch.disconnect()
    this.controls.dispose()
    this.empty(this.moving, this.ghost, this.marks)
    this.renderer.dispose()
    this.renderer.domElement.remove()
  }

  /** Another scene: the same camera, unless it is the first. */
  show(scene: Scene, ink: Ink) {
    const first = this.scene === null
    this.scene = scene
    this.ink = ink
    this.empty(this.moving, this.ghost)
    this.groups = new Map()
    this.handles = []
    for (const name of Object.keys(scene.groups)) {
      const group = new Group()
      group.matrixAutoUpdate = false
      this.groups.set(name, group)
      this.moving.add(group)
    }
    for (const solid of scene.solids) {
      const mesh = this.mesh(solid, 1)
      this.groups.get(solid.group)?.add(mesh)
      if (solid.kind === 'ball' && solid.point) {
        mesh.userData.point = solid.point
        this.handles.push(mesh)
      }
      if (solid.kind === 'bar' && solid.tone === 'steel') this.ghost.add(this.mesh(solid, 0.14))
    }
    if (first) {
      this.centre.set(0, 0, 0).add(new Vector3(...(scene.low as [number, number, number])))
      this.centre.add(new Vector3(...(scene.high as [number, number, number]))).multiplyScalar(0.5)
      this.size = new Vector3(...(scene.high as [number, number, number]))
        .sub(new Vector3(...(scene.low as [number, number, number])))
        .length()
      this.controls.target.copy(this.centre)
      this.look('free')
      this.resize()
    }
  }

  /** Every group where the core has it at this travel (the nearest that it solved). */
  move(travel: number) {
    if (!this.scene) return
    const { travel: places, groups } = this.scene
    let nearest = 0
    places.forEach((place, i) => {
      if (Math.abs(place - travel) < Math.abs((places[nearest] ?? 0) - travel)) nearest = i
    })
    for (const [name, group] of this.groups) {
      const m = groups[name]?.[nearest]
      group.visible = Boolean(m)
      if (m) {
        const [a, b, c, d, e, f, g, h, i, j, k, l] = m as number[]
        group.matrix.set(a!, b!, c!, d!, e!, f!, g!, h!, i!, j!, k!, l!, 0, 0, 0, 1)
        group.matrixWorldNeedsUpdate = true
      }
    }
    this.ghost.visible = Math.abs(places[nearest] ?? 0) > 1e-9
    this.draw()
  }

  /** The chosen joint, and the line it is dragged along. */
  mark(point: string | null, axis: Axis) {
    this.axis = axis
    this.empty(this.marks)
    const handle = this.handles.find((one) => one.userData.point === point)
    if (handle && this.ink) {
      handle.updateWorldMatrix(true, false)
      const at = new Vector3().setFromMatrixPosition(handle.matrixWorld)
      const ball = new Mesh(new SphereGeometry(20, 20, 14), new MeshLambertMaterial({ color: this.ink.amber }))
      ball.position.copy(at)
      const along = this.direction().multiplyScalar(this.size * 0.12)
      const line = new Line(
        new BufferGeometry().setFromPoints([at.clone().sub(along), at.clone().add(along)]),
        new LineBasicMaterial({ color: this.ink.amber }),
      )
      this.marks.add(ball, line)
      const { x, y } = this.onScreen(handle)
      this.box.dataset.at = `${Math.round(x)} ${Math.round(y)}`
    }
    this.draw()
  }

  look(look: Look) {
    if (look === 'free' && this.camera.position.lengthSq() > 0 && this.scene && this.looked) return
    this.looked = true
    this.camera.position.copy(this.centre).addScaledVector(LOOKS[look].clone().normalize(), this.size * 2)
    this.controls.target.copy(this.centre)
    this.controls.update()
    this.draw()
  }
  private looked = false

  /** Once a frame, however much has changed in it. */
  private readonly draw = () => {
    if (this.frame) return
    this.frame = requestAnimationFrame(() => {
      this.frame = 0
      this.renderer.render(this.world, this.camera)
    })
  }
  private frame = 0

  private readonly resize = () => {
    const { clientWidth: width, clientHeight: height } = this.box
    if (!width || !height) return
    this.renderer.setSize(width, height)
    const half = this.size * 0.34
    const wide = Math.max(1, width / height)
    this.camera.left = -half * wide
    this.camera.right = half * wide
    this.camera.top = (half * wide * height) / width
    this.camera.bottom = -this.camera.top
    this.camera.updateProjectionMatrix()
    this.draw()
  }

  private mesh(solid: Solid, opacity: number): Mesh {
    const ink = this.ink!
    const tones = {
      steel: ink.solid,
      joint: ink.blue,
      tyre: ink.muted,
      obstacle: ink.amber,
      ghost: ink.muted,
      member: ink.muted,
      bracket: ink.ink,
    }
    const see = solid.tone === 'tyre' ? 0.22 : solid.tone === 'obstacle' ? 0.4 : opacity
    const material = new MeshLambertMaterial({
      color: new Color(tones[solid.tone]),
      transparent: see < 1,
      opacity: see,
      side: DoubleSide,
      depthWrite: see === 1,
    })
    const vector = (at: number[]) => new Vector3(at[0], at[1], at[2])
    switch (solid.kind) {
      case 'bar': {
        const a = vector(solid.a)
        const d = vector(solid.b).sub(a)
        const mesh = new Mesh(new CylinderGeometry(solid.radius, solid.radius, d.length(), 20), material)
        mesh.position.copy(a).addScaledVector(d, 0.5)
        mesh.quaternion.setFromUnitVectors(new Vector3(0, 1, 0), d.normalize())
        return mesh
      }
      case 'ball': {
        const mesh = new Mesh(new SphereGeometry(solid.radius, 20, 14), material)
        mesh.position.copy(vector(solid.at))
        return mesh
      }
      case 'ring': {
        const tube = solid.width / 2
        const mesh = new Mesh(new TorusGeometry(solid.radius - tube * 0.7, tube * 0.7, 14, 48), material)
        mesh.scale.z = 1 / 0.7
        mesh.position.copy(vector(solid.at))
        mesh.quaternion.setFromUnitVectors(new Vector3(0, 0, 1), vector(solid.axis).normalize())
        return mesh
      }
      case 'box': {
        const low = vector(solid.low)
        const size = vector(solid.high).sub(low)
        const mesh = new Mesh(new BoxGeometry(size.x, size.y, size.z), material)
        mesh.position.copy(low).addScaledVector(size, 0.5)
        return mesh
      }
      case 'plate': {
        const shape = new FlatShape(solid.outline.map(([x, y]) => new Vector2(x, y)))
        for (const hole of solid.holes) shape.holes.push(new Path(hole.map(([x, y]) => new Vector2(x, y))))
        const made = new ExtrudeGeometry(shape, { depth: solid.thickness, bevelEnabled: false })
        made.translate(0, 0, -solid.thickness / 2)
        const mesh = new Mesh(made, material)
        const [x, y] = [vector(solid.x), vector(solid.y)]
        mesh.matrixAutoUpdate = false
        mesh.matrix.makeBasis(x, y, x.clone().cross(y)).setPosition(vector(solid.at))
        return mesh
      }
    }
  }

  private empty(...groups: Group[]) {
    for (const group of groups) {
      group.traverse((one) => {
        if (one instanceof Mesh || one instanceof Line) {
          one.geometry.dispose()
          ;(one.material as MeshLambertMaterial).dispose()
        }
      })
      group.clear()
    }
  }

  // --- dragging -----------------------------------------------------------------------------------------------------

  private direction(): Vector3 {
    return new Vector3(this.axis === 'x' ? 1 : 0, this.axis === 'y' ? 1 : 0, this.axis === 'z' ? 1 : 0)
  }

  private ray(event: PointerEvent): Raycaster {
    const { left, top, width, height } = this.renderer.domElement.getBoundingClientRect()
    const at = new Vector2(((event.clientX - left) / width) * 2 - 1, 1 - ((event.clientY - top) / height) * 2)
    const caster = new Raycaster()
    caster.setFromCamera(at, this.camera)
    return caster
  }

  private readonly press = (event: PointerEvent) => {
    const handle = this.nearest(event)
    if (!handle) return
    const point = handle.userData.point as string
    this.told.choose(point)
    this.controls.enabled = false
    const start = new Vector3().setFromMatrixPosition(handle.matrixWorld)
    this.drags += 1
    this.drag = { point, start, from: this.told.from(point), along: this.direction(), sent: 0 }
    this.renderer.domElement.setPointerCapture(event.pointerId)
  }

  /** Where a joint's picture is in the window, and how deep. */
  private onScreen(handle: Mesh): Vector3 {
    const { left, top, width, height } = this.renderer.domElement.getBoundingClientRect()
    handle.updateWorldMatrix(true, false)
    const at = new Vector3().setFromMatrixPosition(handle.matrixWorld).project(this.camera)
    return new Vector3(left + ((at.x + 1) / 2) * width, top + ((1 - at.y) / 2) * height, at.z)
  }

  /** The joint whose picture is nearest to the pointer, within a finger's reach; of two at one place the one in front. */
  private nearest(event: PointerEvent): Mesh | null {
    let best: { handle: Mesh; away: number } | null = null
    for (const handle of this.handles) {
      const at = this.onScreen(handle)
      const away = new Vector2(event.clientX, event.clientY).distanceTo(new Vector2(at.x, at.y)) + at.z
      if (away < REACH_PX && (!best || away < best.away)) best = { handle, away }
    }
    return best?.handle ?? null
  }

  /** How far along its axis the pointer has pulled it: where the axis comes nearest to the line of sight. */
  private pulled(event: PointerEvent): number | null {
    if (!this.drag) return null
    const { ray } = this.ray(event)
    const { start, along } = this.drag
    const b = along.dot(ray.direction)
    const apart = start.clone().sub(ray.origin)
    const determinant = 1 - b * b
    if (determinant < 0.02) return null // looking along the axis: the pointer cannot say
    return (b * ray.direction.dot(apart) - along.dot(apart)) / determinant
  }

  private readonly pull = (event: PointerEvent) => {
    const far = this.pulled(event)
    if (far === null || !this.drag || event.timeStamp - this.drag.sent < DRAG_MS) return
    this.drag.sent = event.timeStamp
    this.told.put(this.drag.point, this.drag.from + far, this.drags)
  }

  private readonly drop = (event: PointerEvent) => {
    const far = this.pulled(event)
    if (this.drag && far !== null && this.drag.sent) this.told.put(this.drag.point, this.drag.from + far, this.drags)
    this.drag = null
    this.controls.enabled = true
  }
}
