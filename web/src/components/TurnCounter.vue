<script setup lang="ts">
import { computed } from 'vue'
import type { Side } from '../api/client'
import { useActing } from '../composables/useActing'
import { useJob } from '../stores/job'
import ChalkTally from './ChalkTally.vue'

const props = defineProps<{ side: Side; direction: 'off' | 'on' | 'correct' }>()
const store = useJob()
const { problem, act } = useActing()
const count = computed(() => store.job!.counts[props.side][props.direction])
const plan = computed(() => store.job!.corners[props.side].turns)
const target = computed(() => (props.direction === 'on' ? (plan.value?.on ?? null) : null))
const left = computed(() => (target.value ? target.value.total_flats - count.value.total_flats : 0))
const words = computed(
  () => ({ off: 'Counted off', on: 'Turned on', correct: 'Corrected' })[props.direction],
)
const name = computed(() => `${props.side === 'left' ? 'Left' : 'Right'} tie-rod end`)

function turn(flats: number): void {
  void act({ kind: 'counted', side: props.side, direction: props.direction, flats })
}

const sayFlats = (flats: number) =>
  `${Math.floor(flats / 6)} turns ${flats % 6} flats`.replace(' 0 flats', '')
</script>

<template>
  <section class="counter" :aria-label="`${name}, ${direction}`">
    <h4>{{ name }}</h4>
    <p v-if="direction === 'on' && target" class="target">
      Turn on <b class="figure">{{ target.said }}</b>
      <span v-if="left > 0"> · {{ sayFlats(left) }} to go</span>
      <span v-else-if="left === 0" class="there"> · ✓ there</span>
      <span v-else class="over"> · ✕ {{ sayFlats(-left) }} too many</span>
    </p>
    <p v-else-if="direction === 'on'" class="soft">
      No target yet: the plan still lacks readings of this side.
    </p>
    <ChalkTally :label="words" :count="count" />
    <div class="keys">
      <button type="button" class="key big" @click="turn(6)">
        + 1 turn{{ direction === 'correct' ? ' longer' : '' }}
      </button>
      <button type="button" class="key" @click="turn(1)">
        + 1 flat{{ direction === 'correct' ? ' longer' : '' }}
      </button>
      <button type="button" class="key minus" @click="turn(-1)">
        − 1 flat{{ direction === 'correct' ? ' shorter' : '' }}
      </button>
      <button type="button" class="key minus" @click="turn(-6)">
        − 1 turn{{ direction === 'correct' ? ' shorter' : '' }}
      </button>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.counter {
  display: grid;
  gap: 10px;
}

h4 {
  margin: 0;
  font: 600 19px var(--figures);
}

.target b {
  font-size: 24px;
}

.there {
  color: var(--go);
}

.over {
  font-weight: 600;
  color: var(--stop);
}

.keys {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
}

.key {
  min-height: 60px;
  padding: 6px;
  font: 600 21px var(--figures);
  cursor: pointer;
  background: var(--card);
  border: 2px solid var(--go);
  border-radius: var(--radius);
}

.key.big {
  grid-column: 1 / -1;
  min-height: 96px;
  font-size: 34px;
  color: var(--el-color-white);
  background: var(--go);
}

.key.minus {
  border-color: var(--soft);
}

.key:active {
  transform: translateY(1px);
}
</style>
