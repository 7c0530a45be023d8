<script setup lang="ts">
import 'element-plus/theme-chalk/el-segmented.css'
import RefusalNote from './RefusalNote.vue'
import {
  useIntervalFn,
  usePreferredDark,
  usePreferredReducedMotion,
  useResizeObserver,
} from '@vueuse/core'
import { Vector3 } from 'three'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { ask, type Schemas } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useLatest } from '../composables/useLatest'
import { colourOf, openSpace, type SpaceView } from '../composables/useSpaceView'
import { saySigned } from '../composables/useWords'
import { useCar } from '../stores/car'

/** A corner's lines in space, through travel and steer; thin as it is, thick with what is tried. */
const props = defineProps<{ wheel: string; label: string; turns: Record<string, number> }>()
const emit = defineEmits<{ plain: [] }>()
const WIDTHS: Record<string, number> = { link: 4, arm: 4, strut: 7, upright: 6, spindle: 6 }
const TONES: Record<string, string> = {
  rim: '--go',
  spindle: '--go',
  upright: '--soft',
  strut: '--soft',
}
const HIGH = 340
const FRAME_MS = 90
const ENDS = 6
const { problem, guarded } = useGuarded()
const store = useCar()
const place = ref<HTMLCanvasElement | null>(null)
const stage = ref<HTMLElement | null>(null)
const linkage = shallowRef<Schemas['LinkageView'] | null>(null)
const MOVES = [
  { value: 'travel', label: 'Travel' },
  { value: 'steer', label: 'Steer' },
]
const what = ref<'travel' | 'steer'>('travel')
const at = ref(0)
const dark = usePreferredDark()
const calm = usePreferredReducedMotion()
const hasTurns = computed(() => Object.values(props.turns).some((one) => one !== 0))
const motion = computed(() =>
  what.value === 'steer' ? linkage.value?.steer : linkage.value?.after,
)
const last = computed(() => Math.max((motion.value?.at_mm.length ?? 1) - 1, 0))
const said = computed(() => {
  const mm = motion.value?.at_mm[at.value]
  return mm === undefined
    ? ''
    : `${what.value === 'steer' ? 'rack' : 'wheel'} ${saySigned(mm, 0)} mm`
})
let view: SpaceView | null = null
let drawn: { line: LineSegments2; places: number[]; was: boolean }[] = []
let up = true
const playing = useIntervalFn(
  () => {
    if (at.value >= last.value) up = false
    if (at.value <= 0) up = true
    at.value += up ? 1 : -1
  },
  FRAME_MS,
  { immediate: false },
)

/**
 * Lines of one kind are one object; those as it was stand thin behind those as turned. Which lines there are follows
 * from the wheel alone: what is tried moves them.
 */
function build(): void {
  clear()
  const lines = linkage.value?.lines ?? []
  const kinds = [...new Set(lines.map((one) => one.kind))]
  drawn = kinds.flatMap((kind) =>
    [true, false].map((was) => {
      const material = new LineMaterial({
        color: colourOf(was ? '--wait' : (TONES[kind] ?? '--ink')),
        linewidth: was ? 1.5 : (WIDTHS[kind] ?? 2),
        dashed: kind === 'axis',
        dashSize: 20,
        gapSize: 12,
      })
      const line = new LineSegments2(new LineSegmentsGeometry(), material)
      view?.scene.add(line)
      return { line, places: lines.flatMap((one, n) => (one.kind === kind ? [n] : [])), was }
    }),
  )
}

function clear(): void {
  for (const { line } of drawn) {
    view?.scene.remove(line)
    line.geometry.dispose()
    line.material.dispose()
  }
  drawn = []
}

function show(): void {
  const now = motion.value?.frames[at.value]
  const mm = motion.value?.at_mm[at.value]
  const was = what.value === 'travel' && mm !== undefined ? linkage.value?.before : undefined
  const before = was?.frames[was.at_mm.indexOf(mm!)]
  for (const { line, places, was: isBefore } of drawn) {
    const frame = isBefore ? before : now
    line.visible = !!frame && (!isBefore || hasTurns.value)
    if (!frame || !line.visible) continue
    line.geometry.setPositions(places.flatMap((n) => frame.slice(ENDS * n, ENDS * n + ENDS)))
    line.computeLineDistances()
  }
  view?.draw()
}

const load = () =>
  guarded(async () => {
    const path = { car_id: store.car!.id }
    const body = { wheel: props.wheel, turns: props.turns }
    linkage.value = await ask((api) =>
      api.POST('/api/cars/{car_id}/linkage', { params: { path }, body }),
    )
  })
const tryAgain = useLatest(async () => {
  await load()
  show()
})

function middle(): void {
  at.value = Math.max(motion.value?.at_mm.indexOf(0) ?? 0, 0)
  show()
}

function fit(): void {
  view?.fit(stage.value!.clientWidth, HIGH)
  show()
}

onMounted(async () => {
  view = openSpace(place.value!)
  if (!view) return emit('plain')
  await load()
  build()
  const ends = linkage.value?.lines.flatMap((one) => [one.start, one.end]) ?? []
  view.frame(ends.map((end) => new Vector3().fromArray(end)))
  middle()
  fit()
})
onUnmounted(() => {
  clear()
  view?.close()
})
useResizeObserver(stage, fit)
watch(
  () => props.turns,
  () => tryAgain(),
  { deep: true },
)
watch(dark, () => {
  build()
  show()
})
watch(at, show)
watch(what, middle)
</script>

<template>
  <figure class="stack m-0">
    <div ref="stage" class="h-340px bg-paper rounded">
      <canvas
        ref="place"
        tabindex="0"
        role="img"
        :aria-label="`${label} corner in space, ${said}; arrow keys turn it, plus and minus zoom`"
        class="w-full h-full [touch-action:none]"
        @keydown="view?.keyed($event)"
      ></canvas>
    </div>
    <RefusalNote :said="problem" />
    <div class="row">
      <el-segmented
        v-if="linkage?.steer.at_mm.length"
        v-model="what"
        :options="MOVES"
        aria-label="What moves"
      />
      <el-slider
        v-model="at"
        class="flex-1 min-w-140px"
        :max="last"
        :show-tooltip="false"
        :aria-label="what === 'steer' ? 'Rack' : 'Wheel travel'"
        :format-value-text="() => said"
      />
      <b class="figure">{{ said }}</b>
      <el-button
        v-if="calm === 'no-preference'"
        @click="playing.isActive.value ? playing.pause() : playing.resume()"
        >{{ playing.isActive.value ? 'Stop' : 'Play' }}</el-button
      >
      <el-button text @click="emit('plain')">Plain views</el-button>
    </div>
    <figcaption v-if="hasTurns && what === 'travel'" class="soft">
      Thin: as it is today. Thick: with what is tried below.
    </figcaption>
  </figure>
</template>
