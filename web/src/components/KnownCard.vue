<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed } from 'vue'
import type { PlanView } from '../api/client'
import { useJob } from '../stores/job'
import ChoiceField from './ChoiceField.vue'
import MeasuringField from './MeasuringField.vue'

/** What the plan will know, and what it will not; the fields that would tell it stand here. */
defineProps<{ foreseen: PlanView['foreseen'] }>()
const store = useJob()
const fields = computed(() => new Map(store.sheet?.fields.map((one) => [one.key, one])))
const place = (axle: string, side: string) => [axle, side].filter(Boolean).join(' ')
</script>

<template>
  <section class="card stack" aria-label="What will be known">
    <h3>What will be known</h3>
    <div v-for="one in foreseen" :key="one.what">
      <p :class="one.known ? 'go' : 'wait'">
        {{ one.known ? '✓' : '○' }} <b>{{ one.what }}:</b> {{ one.said
        }}{{ one.minutes ? ` (${one.minutes} min)` : '' }}
      </p>
      <FoldAway v-if="one.fields.length" title="Tell it here">
        <template v-for="key in one.fields" :key="key">
          <template v-if="fields.get(key)">
            <ChoiceField
              v-if="fields.get(key)!.choices.length"
              :field="fields.get(key)!"
              :prefix="place(fields.get(key)!.axle, fields.get(key)!.side)"
            />
            <MeasuringField
              v-else
              :field="fields.get(key)!"
              :prefix="place(fields.get(key)!.axle, fields.get(key)!.side)"
            />
          </template>
        </template>
      </FoldAway>
    </div>
  </section>
</template>

<style scoped>
.go {
  color: var(--go);
}

.wait {
  color: var(--wait);
}
</style>
