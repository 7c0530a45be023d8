<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { ref } from 'vue'
import { ask, type WalkOrder } from '../api/client'
import { useRead } from '../composables/useRead'
import { useJob } from '../stores/job'

const NAMES = {
  'front.left': 'Front left',
  'front.right': 'Front right',
  'rear.right': 'Rear right',
  'rear.left': 'Rear left',
}
const store = useJob()
const {
  found: order,
  problem,
  guarded,
  again,
} = useRead(['settings', 'walk'], (api) => api.GET('/api/settings/walk'))

let sending = Promise.resolve()
/** Changes on their way; the walk follows once they have arrived. */
const waiting = ref(0)

/** Shown at once, sent one after the other: a second tap counts on from the first. */
function change(corners: WalkOrder['corners'], by: WalkOrder['by']): void {
  if (!order.value) return
  order.value = { ...order.value, corners, by }
  waiting.value += 1
  sending = sending.then(async () => void (await guarded(() => save(corners, by))))
}

async function save(corners: WalkOrder['corners'], by: WalkOrder['by']): Promise<void> {
  try {
    const body = { corners, by, seen: order.value?.version ?? 0 }
    const saved = await ask((api) => api.PUT('/api/settings/walk', { body }))
    order.value = waiting.value > 1 ? { ...order.value!, version: saved.version } : saved
  } catch (error) {
    await again()
    throw error
  } finally {
    const path = { job_id: store.job!.id }
    store.take(await ask((api) => api.GET('/api/jobs/{job_id}', { params: { path } })))
    waiting.value -= 1
  }
}

function earlier(place: number): void {
  if (!order.value) return
  const corners = [...(order.value.corners ?? [])]
  const [moved] = corners.splice(place, 1)
  if (moved) corners.splice(place - 1, 0, moved)
  change(corners, order.value.by)
}
</script>

<template>
  <FoldAway title="Order of the walk">
    <template v-if="order">
      <div class="row" role="group" aria-label="Go round by">
        <button
          v-for="by in ['wheel', 'reading'] as const"
          :key="by"
          type="button"
          :class="{ on: order.by === by }"
          :aria-pressed="order.by === by"
          class="min-w-44px min-h-44px py-0 px-12px cursor-pointer bg-card edged-soft"
          @click="change(order.corners, by)"
        >
          {{ by === 'wheel' ? 'Wheel by wheel' : 'Reading by reading' }}
        </button>
      </div>
      <ol :aria-busy="waiting > 0" class="p-0 mt-8px mx-0 mb-0 list-none">
        <li
          v-for="(corner, place) in order.corners"
          :key="corner"
          class="flex gap-10px items-center justify-between min-h-46px max-w-260px"
        >
          <span>{{ place + 1 }}. {{ NAMES[corner] }}</span>
          <button
            v-if="place"
            type="button"
            :aria-label="`${NAMES[corner]} earlier`"
            class="min-w-44px min-h-44px py-0 px-12px cursor-pointer bg-card edged-soft"
            @click="earlier(place)"
          >
            ↑
          </button>
        </li>
      </ol>
    </template>
    <RefusalNote :said="problem" />
  </FoldAway>
</template>

<style scoped>
button.on {
  font-weight: 600;
  color: var(--go);
  background: var(--go-wash);
  border: 2px solid var(--go);
}
</style>
