<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed } from 'vue'
import { useJob } from '../stores/job'
import WheelTable from './WheelTable.vue'

const store = useJob()
const job = computed(() => store.job!)
/** Each entry as it was typed beside how it was understood; what came with the car apart. */
const readings = computed(() =>
  Object.values(job.value.entries).map((one) => ({
    key: one.key,
    label: one.label,
    typed: one.said,
    understood: one.understood,
    taken: [one.gauge, one.source, ...one.flags, one.doubt].filter(Boolean).join('; '),
    over: one.carried,
  })),
)
const taken = computed(() => readings.value.filter((one) => !one.over))
const over = computed(() => readings.value.filter((one) => one.over))
</script>

<template>
  <WheelTable :wheels="job.wheels" />
  <div class="scroll" tabindex="0" role="region" aria-label="Readings as taken">
    <table class="sheet-table">
      <caption>
        Readings as taken
      </caption>
      <tbody>
        <tr v-for="one in taken" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ one.typed }}</td>
          <td>{{ one.understood }}</td>
          <td class="soft">{{ one.taken }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <FoldAway v-if="over.length" :title="`From the car's record, ${over.length}`">
    <table class="sheet-table">
      <tbody>
        <tr v-for="one in over" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ one.understood }}</td>
        </tr>
      </tbody>
    </table>
  </FoldAway>
</template>
