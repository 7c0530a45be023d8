<script setup lang="ts">
import { computed } from 'vue'
import { SIDES } from '../api/client'
import { sayNumber } from '../composables/useWords'
import { useJob } from '../stores/job'
import WheelTable from './WheelTable.vue'

const store = useJob()
const job = computed(() => store.job!)
const rows = computed(() =>
  SIDES.map((side) => {
    const corner = job.value.corners[side]
    const count = job.value.counts[side]
    const pm = (value: number | null | undefined) => (value ? ` ± ${sayNumber(value)}` : '')
    const mm = (one: { value: number; plus_minus: number | null } | null) =>
      one ? sayNumber(one.value) + pm(one.plus_minus) : '·'
    return {
      side: side === 'left' ? 'Left' : 'Right',
      before: mm(corner.height_now),
      predicted: mm(corner.height_predicted),
      after: mm(corner.check.height),
      toe: corner.toe_now?.also ?? '·',
      wanted: corner.toe_target?.also ?? '·',
      toeAfter: corner.check.toe?.also ?? '·',
      off: count.off.total_flats ? count.off.said : '·',
      on: count.on.total_flats ? count.on.said : '·',
      correct: count.correct.total_flats ? count.correct.said : '·',
    }
  }),
)

/** Each entry as it was typed beside how it was understood. */
const readings = computed(() =>
  Object.values(job.value.entries).map((one) => ({
    key: one.key,
    label: one.label,
    typed: one.said,
    understood: one.understood,
    taken: [one.gauge, one.source, ...one.flags, one.doubt].filter(Boolean).join('; '),
  })),
)
</script>

<template>
  <WheelTable v-if="!job.groups.length" :wheels="job.wheels" />
  <div
    v-if="job.groups.length"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Heights, toe and turns"
  >
    <table class="sheet-table">
      <caption>
        Heights hub to arch in mm, toe per wheel, turns of the tie-rod ends
      </caption>
      <thead>
        <tr>
          <th>Side</th>
          <th>Before</th>
          <th>Predicted</th>
          <th>Settled</th>
          <th>Toe before</th>
          <th>Wanted</th>
          <th>Settled</th>
          <th>Off</th>
          <th>On</th>
          <th>Corrected</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.side">
          <th>{{ row.side }}</th>
          <td>{{ row.before }}</td>
          <td>{{ row.predicted }}</td>
          <td>{{ row.after }}</td>
          <td>{{ row.toe }}</td>
          <td>{{ row.wanted }}</td>
          <td>{{ row.toeAfter }}</td>
          <td>{{ row.off }}</td>
          <td>{{ row.on }}</td>
          <td>{{ row.correct }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <div v-if="job.groups.length" class="scroll" tabindex="0" role="region" aria-label="Tightening">
    <table class="sheet-table">
      <caption>
        Tightening
      </caption>
      <thead>
        <tr>
          <th>Fastener</th>
          <th>Specified</th>
          <th>Source</th>
          <th>Left</th>
          <th>Right</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="group in job.groups" :key="group.key">
          <th>{{ group.label }}</th>
          <td>{{ group.spec?.said ?? 'none entered' }}</td>
          <td>{{ group.spec?.source ?? '·' }}</td>
          <td v-for="side in SIDES" :key="side">
            <div v-for="place in group.places.filter((one) => one.side === side)" :key="place.key">
              <span v-if="group.places.length > 2">{{ place.number }}: </span>
              {{
                place.reading ||
                (place.by_feel ? `by feel, ${place.by_feel}` : (place.stage ?? 'as found'))
              }}
              <span v-if="place.clamp" class="soft">at {{ place.clamp }}</span>
              <b v-if="place.overridden">override: {{ place.overridden }}</b>
            </div>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <div class="scroll" tabindex="0" role="region" aria-label="Readings as taken">
    <table class="sheet-table">
      <caption>
        Readings as taken
      </caption>
      <tbody>
        <tr v-for="one in readings" :key="one.key">
          <th>{{ one.label }}</th>
          <td>{{ one.typed }}</td>
          <td>{{ one.understood }}</td>
          <td class="soft">{{ one.taken }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
