import {
  Box3,
  Color,
  GridHelper,
  MathUtils,
  PerspectiveCamera,
  Scene,
  Sphere,
  Vector3,
  WebGLRenderer,
} from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'

const TURN = 0.12
const NEARER = 0.9
const FARTHER = 1.1
/** By key: how far round, how far up or down [rad], and how much nearer. */
const KEYS: Record<string, [number, number, number]> = {
  ArrowLeft: [-TURN, 0, 1],
  ArrowRight: [TURN, 0, 1],
  ArrowUp: [0, TURN, 1],
  ArrowDown: [0, -TURN, 1],
  '+': [0, 0, NEARER],
  '-': [0, 0, FARTHER],
}

export interface SpaceView {
  scene: Scene
  draw(): void
  /** Stand far enough away that all points are seen. */
  frame(points: Vector3[]): void
  fit(width: number, height: number): void
  keyed(event: KeyboardEvent): void
  close(): void
}

/** A colour of ours by its name. */
export const colourOf = (name: string): Color =>
  new Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim())

/** A view in space, z up, over a floor, turned with finger, mouse and keys; null where the browser has none. */
export function openSpace(canvas: HTMLCanvasElement): SpaceView | null {
  let renderer: WebGLRenderer
  try {
    renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true })
  } catch {
    return null
  }
  const scene = new Scene()
  const camera = new PerspectiveCamera(32, 1, 10, 20_000)
  camera.up.set(0, 0, 1)
  const floor = new GridHelper(3000, 20, colourOf('--soft'), colourOf('--soft'))
  floor.material.transparent = true
  floor.material.opacity = 0.3
  floor.rotation.x = Math.PI / 2
  scene.add(floor)
  const controls = new OrbitControls(camera, canvas)
  const draw = () => renderer.render(scene, camera)
  controls.addEventListener('change', draw)

  function frame(points: Vector3[]): void {
    const ball = new Box3().setFromPoints(points).getBoundingSphere(new Sphere())
    const outward = Math.sign(ball.center.y) || 1
    const away = ball.radius / Math.sin(MathUtils.degToRad(camera.fov / 2))
    controls.target.copy(ball.center)
    camera.position
      .copy(ball.center)
      .addScaledVector(new Vector3(1, outward, 0.55).normalize(), away)
    controls.update()
  }

  function fit(width: number, height: number): void {
    renderer.setPixelRatio(window.devicePixelRatio)
    renderer.setSize(width, height, false)
    camera.aspect = width / height
    camera.updateProjectionMatrix()
  }

  function keyed(event: KeyboardEvent): void {
    const way = KEYS[event.key]
    if (!way) return
    event.preventDefault()
    const from = new Vector3().subVectors(camera.position, controls.target)
    from.applyAxisAngle(camera.up, way[0])
    from.applyAxisAngle(new Vector3().crossVectors(from, camera.up).normalize(), way[1])
    camera.position.copy(controls.target).add(from.multiplyScalar(way[2]))
    controls.update()
  }

  function close(): void {
    controls.dispose()
    renderer.dispose()
  }

  return { scene, draw, frame, fit, keyed, close }
}
