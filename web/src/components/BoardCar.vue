<script setup lang="ts">
import { computed } from 'vue'
import type { BoardLine } from '../api/client'
import { sayClock, sayLeft, useClock } from '../composables/useTimers'
import { sayMoment } from '../composables/useWords'
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
  <article class="car" :aria-label="`${line.car}: ${line.title}`">
    <header>
      <div class="who">
        <b class="figure">{{ line.car }}</b>
        <span>{{ line.title }}</span>
      </div>
      <PositionMark :position="line.position" :said="line.position_said" quiet />
      <StateLine v-if="line.steps.length" :steps="line.steps" />
    </header>
    <div class="below">
      <router-link class="next" :to="{ name: page, params: { jobId: line.id } }">
        <span class="soft">{{ line.planned ? 'Next' : 'Not planned yet' }}</span>
        <b>{{
          line.next_step || (line.planned ? 'All done: check and sign' : 'Say what is fitted')
        }}</b>
      </router-link>
      <p v-if="line.loose.length" class="loose">
        <b>✕ {{ line.loose.length }} loose</b> {{ line.loose[0]
        }}<template v-if="line.loose.length > 1"> …</template>
      </p>
      <p v-for="one in running" :key="one.title" class="soft">
        ◷ {{ one.title }}:
        {{ sayLeft(one.ready, now) ? `not before ${sayClock(one.ready)}` : 'ready' }}
      </p>
      <p class="soft last">
        <template v-if="line.by">{{ line.by }}, </template>{{ sayMoment(line.last_at) }}
      </p>
    </div>
  </article>
</template>

<style scoped>
.car {
  overflow: hidden;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

header {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) auto;
  gap: 4px 18px;
  align-items: center;
  padding: 12px 18px;
  color: var(--chalk);
  background: var(--band);
}

header > :deep(svg.line) {
  grid-column: 1 / -1;
}

.who {
  display: grid;
}

.who b {
  font-size: 24px;
}

.below {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 18px;
  align-items: center;
  padding: 12px 18px;
}

.next {
  display: grid;
  grid-column: 1 / -1;
  min-height: 60px;
  padding: 8px 14px;
  color: var(--ink);
  text-decoration: none;
  border: 2px solid var(--go);
  border-radius: var(--radius);
}

.next b {
  font: 600 21px var(--figures);
  color: var(--go);
}

.loose {
  color: var(--stop);
}

.last {
  grid-column: 2;
  text-align: right;
}

@media (width <= 760px) {
  header,
  .below {
    grid-template-columns: minmax(0, 1fr);
  }

  .last {
    grid-column: 1;
    text-align: left;
  }
}
</style>
