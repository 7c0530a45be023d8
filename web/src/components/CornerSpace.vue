<script setup lang="ts">
import { usePreferredDark, usePreferredReducedMotion, useResizeObserver } from '@vueuse/core'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
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
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../api/client'
import { saySigned } from '../composables/useWords'
import { useGuarded } from '../composables/useGuarded'
import { useCar } from '../stores/car'

type Motion = Schemas['MotionView']
const props = defineProps<{ wheel: string; label: string; turns: Record<string, number> }>()
const emit = defineEmits<{ plain: [] }>()
const WIDTHS: Record<string, number> = { link: 4, arm: 4, strut: 7, upright: 6, spindle: 6 }
const TONES: Record<string, string> = {
  rim: '--go',
  spindle: '--go',
  upright: '--soft',
  strut: '--soft',
}
const FRAME_MS = 90
const TURN = 0.12
const { problem, guarded } = useGuarded()
const store = useCar()
const place = ref<HTMLCanvasElement | null>(null)
const linkage = shallowRef<Schemas['LinkageView'] | null>(null)
const what = ref<'travel' | 'steer'>('travel')
const at = ref(0)
const playing = ref(false)
const dark = usePreferredDark()
const calm = usePreferredReducedMotion()
const hasTurns = computed(() => Object.values(props.turns).some((one) => one !== 0))
const motion = computed<Motion | undefined>(() =>
  what.value === 'steer' ? linkage.value?.steer : linkage.value?.after,
)
const last = computed(() => Math.max((motion.value?.at_mm.length ?? 1) - 1, 0))
const said = computed(() => {
  const mm = motion.value?.at_mm[at.value]
  if (mm === undefined) return ''
  return what.value === 'steer' ? `rack ${saySigned(mm, 0)} mm` : `wheel ${saySigned(mm, 0)} mm`
})

const scene = new Scene()
const camera = new PerspectiveCamera(32, 1, 10, 20_000)
let renderer: WebGLRenderer | null = null
let controls: OrbitControls | null = null
let drawn: { kind: string; line: LineSegments2; places: number[]; was: boolean }[] = []
let timer = 0

const own = (name: string) =>
  new Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim())

/** Lines of one kind are one object; those as it was stand thin behind those as turned. */
function build(): void {
  for (const one of drawn) scene.remove(one.line)
  const kinds = [...new Set(linkage.value?.lines.map((one) => one.kind))]
  drawn = kinds.flatMap((kind) =>
    [true, false].map((was) => {
      const places = linkage.value!.lines.flatMap((one, n) => (one.kind === kind ? [n] : []))
      const colour = own(was ? '--wait' : (TONES[kind] ?? '--ink'))
      const linewidth = was ? 1.5 : (WIDTHS[kind] ?? 2)
      const line = new LineSegments2(
        new LineSegmentsGeometry(),
        new LineMaterial({
          color: colour,
          linewidth,
          dashed: kind === 'axis',
          dashSize: 20,
          gapSize: 12,
        }),
      )
      scene.add(line)
      return { kind, line, places, was }
    }),
  )
}

function show(): void {
  const now = motion.value?.frames[at.value]
  const before = what.value === 'travel' ? linkage.value?.before.frames[at.value] : undefined
  if (!now || !renderer) return
  for (const { line, places, was } of drawn) {
    const frame = was ? before : now
    line.visible = !!frame && (!was || hasTurns.value)
    if (!frame || !line.visible) continue
    line.geometry.setPositions(places.flatMap((n) => frame.slice(6 * n, 6 * n + 6)))
    line.computeLineDistances()
  }
  renderer.render(scene, camera)
}

/** Far enough away that all of it is seen. */
function frameIt(): void {
  const lines = linkage.value?.lines ?? []
  const ends = lines.flatMap((one) => [one.start, one.end].map((at) => new Vector3().fromArray(at)))
  if (!ends.length || !controls) return
  const ball = new Box3().setFromPoints(ends).getBoundingSphere(new Sphere())
  const outward = Math.sign(ball.center.y) || 1
  const away = ball.radius / Math.sin(MathUtils.degToRad(camera.fov / 2))
  controls.target.copy(ball.center)
  camera.position.copy(ball.center).addScaledVector(new Vector3(1, outward, 0.55).normalize(), away)
  controls.update()
}

async function load(): Promise<void> {
  await guarded(async () => {
    const path = { car_id: store.car!.id }
    const body = { wheel: props.wheel, turns: props.turns }
    linkage.value = await ask((api) =>
      api.POST('/api/cars/{car_id}/linkage', { params: { path }, body }),
    )
    build()
  })
}

function middle(): void {
  at.value = Math.max(motion.value?.at_mm.indexOf(0) ?? 0, 0)
  show()
}

function play(): void {
  window.clearInterval(timer)
  playing.value = !playing.value
  if (!playing.value) return
  let up = true
  timer = window.setInterval(() => {
    if (at.value >= last.value) up = false
    if (at.value <= 0) up = true
    at.value += up ? 1 : -1
  }, FRAME_MS)
}

/** Arrow keys turn the view, plus and minus come nearer and go away. */
function keyed(event: KeyboardEvent): void {
  if (!controls) return
  const from = new Vector3().subVectors(camera.position, controls.target)
  const turns: Record<string, [number, number, number]> = {
    ArrowLeft: [-TURN, 0, 1],
    ArrowRight: [TURN, 0, 1],
    ArrowUp: [0, TURN, 1],
    ArrowDown: [0, -TURN, 1],
    '+': [0, 0, 0.9],
    '-': [0, 0, 1.1],
  }
  const way = turns[event.key]
  if (!way) return
  event.preventDefault()
  from.applyAxisAngle(camera.up, way[0])
  from.applyAxisAngle(new Vector3().crossVectors(from, camera.up).normalize(), way[1])
  camera.position.copy(controls.target).add(from.multiplyScalar(way[2]))
  controls.update()
}

function fit(): void {
  const box = place.value?.parentElement
  if (!box || !renderer) return
  renderer.setPixelRatio(window.devicePixelRatio)
  renderer.setSize(box.clientWidth, 340, false)
  camera.aspect = box.clientWidth / 340
  camera.updateProjectionMatrix()
  show()
}

onMounted(async () => {
  try {
    renderer = new WebGLRenderer({ canvas: place.value!, antialias: true, alpha: true })
  } catch {
    emit('plain')
    return
  }
  camera.up.set(0, 0, 1)
  const floor = new GridHelper(3000, 20, own('--soft'), own('--soft'))
  floor.material.transparent = true
  floor.material.opacity = 0.3
  floor.rotation.x = Math.PI / 2
  scene.add(floor)
  controls = new OrbitControls(camera, place.value!)
  controls.addEventListener('change', show)
  await load()
  frameIt()
  middle()
  fit()
})
onUnmounted(() => {
  window.clearInterval(timer)
  controls?.dispose()
  renderer?.dispose()
})
useResizeObserver(
  computed(() => place.value?.parentElement ?? null),
  fit,
)
watch(
  () => props.turns,
  () => load().then(show),
  { deep: true },
)
watch(dark, () => (build(), show()))
watch(at, show)
watch(what, middle)
</script>

<template>
  <figure class="space stack">
    <div class="stage">
      <canvas
        ref="place"
        tabindex="0"
        role="img"
        :aria-label="`${label} corner in space, ${said}; arrow keys turn it, plus and minus zoom`"
        @keydown="keyed"
      ></canvas>
    </div>
    <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
    <div class="row">
      <el-radio-group v-if="linkage?.steer.at_mm.length" v-model="what" aria-label="What moves">
        <el-radio-button value="travel">Travel</el-radio-button>
        <el-radio-button value="steer">Steer</el-radio-button>
      </el-radio-group>
      <el-slider
        v-model="at"
        class="grow"
        :max="last"
        :show-tooltip="false"
        :aria-label="what === 'steer' ? 'Rack' : 'Wheel travel'"
        :format-value-text="() => said"
      />
      <b class="figure">{{ said }}</b>
      <el-button v-if="calm === 'no-preference'" @click="play">{{
        playing ? 'Stop' : 'Play'
      }}</el-button>
      <el-button text @click="emit('plain')">Plain views</el-button>
    </div>
    <figcaption v-if="hasTurns && what === 'travel'" class="soft">
      Thin: as it is today. Thick: with what is tried below.
    </figcaption>
  </figure>
</template>

<style scoped>
.space {
  margin: 0;
}

.stage {
  height: 340px;
  background: var(--paper);
  border-radius: var(--radius);
}

canvas {
  width: 100%;
  height: 100%;
  touch-action: none;
}

.grow {
  flex: 1;
  min-width: 140px;
}
</style>
