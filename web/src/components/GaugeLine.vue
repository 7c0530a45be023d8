<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import type { InstrumentView } from '../api/client'
import type { Line, Shown } from '../composables/useLine'

const props = defineProps<{
  instrument: InstrumentView
  line: Line
  takes?: string
  nameless?: boolean
}>()
const emit = defineEmits<{ take: [shown: Shown] }>()
const shown = computed(() => props.line.held ?? props.line.now)
const ready = computed(
  () => !!props.line.held || (props.line.state === 'live' && props.line.stable),
)
const word = computed(() => {
  if (props.line.held) return '▣ held'
  return {
    connecting: 'listening…',
    live: props.line.stable ? '● steady' : '◌ settling',
    silent: '✕ no signal',
    fault: '✕ fault',
    closed: 'off',
  }[props.line.state]
})

function say(value: number | null): string {
  return value === null ? '' : String(value).replace('-', '−')
}

function take(): void {
  if (!shown.value || !ready.value) return
  emit('take', shown.value)
  props.line.release()
}
</script>

<template>
  <section class="line" :aria-label="`Gauge ${instrument.name}`">
    <div class="flex flex-wrap gap-y-2px gap-x-12px">
      <b v-if="!nameless">{{ instrument.name }}</b>
      <span class="soft">
        {{ line.standIn ? 'Simulated' : 'Live' }}
        <template v-if="line.battery !== null"> · battery {{ line.battery }} %</template>
      </span>
      <span v-if="instrument.overdue && !nameless" class="font-600 c-wait"
        >▲ calibration ran out on {{ instrument.due }}</span
      >
    </div>
    <div class="flex flex-wrap gap-y-4px gap-x-14px items-baseline justify-end" aria-live="off">
      <template v-if="shown?.values">
        <span v-for="(value, channel) in shown.values" :key="channel" class="grid text-22px">
          <small class="text-15px c-soft">{{ String(channel).replace('_', ' ') }}</small>
          <b class="figure">{{ say(value) }}</b>
        </span>
      </template>
      <b v-else class="figure min-w-5ch text-34px text-right">{{
        shown ? say(shown.value) : '– – –'
      }}</b>
      <span>{{ instrument.unit_said }}</span>
    </div>
    <div class="flex flex-wrap col-span-full gap-10px items-center">
      <span class="state" :class="line.held ? 'held' : line.state" role="status">{{ word }}</span>
      <el-button v-if="line.held" @click="line.release()">Let go</el-button>
      <el-button v-else :disabled="line.state !== 'live'" @click="line.hold()">Hold</el-button>
      <el-button v-if="takes" type="primary" :disabled="!ready" @click="take">
        Take {{ takes }}
      </el-button>
    </div>
    <RefusalNote :said="line.message" />
  </section>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 18px;
  align-items: center;
  padding: 10px 14px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.state {
  flex: 1;
  font-weight: 600;
}

.state.live,
.state.held {
  color: var(--go);
}

.state.silent,
.state.fault {
  color: var(--stop);
}
</style>
