<script setup lang="ts">
import { computed } from 'vue'
import type { BoardLine } from '../api/client'
import { sayLeft, useClock } from '../composables/useTimers'
import { sayClock, sayMoment } from '../composables/useWords'
import PositionMark from './PositionMark.vue'
import StateLine from './StateLine.vue'

/** A car in work: where it stands, what is next, what is loose. */
const props = defineProps<{ line: BoardLine }>()
const now = useClock()
const page = computed(() => (props.line.planned ? 'floor' : 'order'))
const running = computed(() =>
  props.line.works.filter((one) => Date.parse(one.over) > now.value).slice(0, 2),
)
</script>

<template>
  <article class="overflow-hidden bg-card edged" :aria-label="`${line.car}: ${line.title}`">
    <header
      class="grid grid-cols-[minmax(200px,1fr)_auto] gap-y-4px gap-x-18px items-center py-12px px-18px c-chalk bg-band lt-phone:one-col"
    >
      <div class="grid">
        <b class="figure text-24px">{{ line.car }}</b>
        <span>{{ line.title }}</span>
      </div>
      <PositionMark :position="line.position" :said="line.position_said" quiet />
      <StateLine v-if="line.steps.length" :steps="line.steps" />
    </header>
    <div class="grid col-auto gap-y-6px gap-x-18px items-center py-12px px-18px lt-phone:one-col">
      <router-link
        class="grid col-span-full min-h-60px py-8px px-14px c-ink no-underline b-2px b-solid b-go rounded"
        :to="{ name: page, params: { jobId: line.id } }"
      >
        <span class="soft">{{ line.planned ? 'Next' : 'Not planned yet' }}</span>
        <b class="[font:600_21px_var(--figures)] c-go">{{
          line.next_step || (line.planned ? 'All done: check and sign' : 'Say what is fitted')
        }}</b>
      </router-link>
      <p v-if="line.loose.length" class="c-stop">
        <b>✕ {{ line.loose.length }} loose</b> {{ line.loose[0]
        }}<template v-if="line.loose.length > 1"> …</template>
      </p>
      <p v-for="one in running" :key="one.title" class="soft">
        ◷ {{ one.title }}:
        {{ sayLeft(one.ready, now) ? `not before ${sayClock(one.ready)}` : 'ready' }}
      </p>
      <p class="soft [grid-column:2] text-right lt-phone:[grid-column:1] lt-phone:text-left">
        <template v-if="line.by">{{ line.by }}, </template>{{ sayMoment(line.last_at) }}
      </p>
    </div>
  </article>
</template>

<style scoped>
header > :deep(svg.line) {
  grid-column: 1 / -1;
}
</style>
