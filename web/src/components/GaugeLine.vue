<script setup lang="ts">
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
    <div class="who">
      <b v-if="!nameless">{{ instrument.name }}</b>
      <span class="soft">
        {{ line.standIn ? 'Simulated' : 'Live' }}
        <template v-if="line.battery !== null"> · battery {{ line.battery }} %</template>
      </span>
      <span v-if="instrument.overdue && !nameless" class="wait"
        >▲ calibration ran out on {{ instrument.due }}</span
      >
    </div>
    <div class="value" aria-live="off">
      <template v-if="shown?.values">
        <span v-for="(value, channel) in shown.values" :key="channel" class="channel">
          <small>{{ String(channel).replace('_', ' ') }}</small>
          <b class="figure">{{ say(value) }}</b>
        </span>
      </template>
      <b v-else class="figure large">{{ shown ? say(shown.value) : '– – –' }}</b>
      <span>{{ instrument.unit_said }}</span>
    </div>
    <div class="do">
      <span class="state" :class="line.held ? 'held' : line.state" role="status">{{ word }}</span>
      <el-button v-if="line.held" @click="line.release()">Let go</el-button>
      <el-button v-else :disabled="line.state !== 'live'" @click="line.hold()">Hold</el-button>
      <el-button v-if="takes" type="primary" :disabled="!ready" @click="take">
        Take {{ takes }}
      </el-button>
    </div>
    <el-alert v-if="line.message" type="error" :closable="false" role="alert">{{
      line.message
    }}</el-alert>
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

.who {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}

.value {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  justify-content: flex-end;
}

.large {
  min-width: 5ch;
  font-size: 34px;
  text-align: right;
}

.channel {
  display: grid;
  font-size: 22px;
}

.channel small {
  font-size: 15px;
  color: var(--soft);
}

.do {
  display: flex;
  flex-wrap: wrap;
  grid-column: 1 / -1;
  gap: 10px;
  align-items: center;
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

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
