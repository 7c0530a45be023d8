<script setup lang="ts">
import { computed } from 'vue'
import type { FieldView, Side } from '../api/client'
import { sayNumber, saySigned } from '../composables/useWords'
import { useJob } from '../stores/job'
import FastenerBoard from './FastenerBoard.vue'
import { ladderOfCorner } from '../composables/useLadder'
import HeightLadder from './HeightLadder.vue'
import MeasuringField from './MeasuringField.vue'
import TurnCounter from './TurnCounter.vue'

const props = defineProps<{ side: Side; fields: FieldView[] }>()
const emit = defineEmits<{ saved: [] }>()
const store = useJob()
const corner = computed(() => store.job!.corners[props.side])
const check = computed(() => corner.value.check)
const jam = computed(() => store.job!.groups.find((group) => group.key === 'jam')!)
const open = computed(() =>
  jam.value.places.some((place) => place.side === props.side && place.stage !== 'torqued'),
)
const title = computed(() => (props.side === 'left' ? 'Left front' : 'Right front'))
const camber = computed(() => ({
  before: store.job!.entries[`front.${props.side}.camber`]?.understood,
  settled: store.job!.entries[`front.${props.side}.check_camber`]?.understood,
}))
const away = computed(() => check.value.correction?.total_flats ?? 0)
</script>

<template>
  <section class="card side" :aria-label="title">
    <h3>{{ title }}</h3>
    <table>
      <thead>
        <tr>
          <th></th>
          <th>Before</th>
          <th>Predicted</th>
          <th>Settled</th>
          <th>Miss</th>
        </tr>
      </thead>
      <tbody class="figure">
        <tr>
          <th>Height, mm</th>
          <td>{{ corner.height_now ? sayNumber(corner.height_now.value) : '·' }}</td>
          <td>
            {{ corner.height_predicted ? sayNumber(corner.height_predicted.value) : '·' }}
            <small v-if="corner.height_predicted?.plus_minus">
              ± {{ sayNumber(corner.height_predicted.plus_minus) }}
            </small>
          </td>
          <td>{{ check.height ? sayNumber(check.height.value) : '·' }}</td>
          <td :class="{ off: check.height_explained === false }">
            {{ check.height_miss_mm === null ? '·' : saySigned(check.height_miss_mm) }}
          </td>
        </tr>
        <tr>
          <th>Toe</th>
          <td>{{ corner.toe_now?.also ?? '·' }}</td>
          <td>
            {{ check.toe_predicted?.also ?? '·' }}
            <small v-if="check.toe_predicted?.plus_minus">
              ± {{ sayNumber(check.toe_predicted.plus_minus) }}
            </small>
          </td>
          <td>{{ check.toe?.also ?? '·' }}</td>
          <td :class="{ off: check.toe_explained === false }">
            {{ check.toe_miss_min === null ? '·' : `${saySigned(check.toe_miss_min)}'` }}
          </td>
        </tr>
        <tr v-if="camber.before || camber.settled">
          <th>Camber</th>
          <td>{{ camber.before ?? '·' }}</td>
          <td>·</td>
          <td>{{ camber.settled ?? '·' }}</td>
          <td>·</td>
        </tr>
      </tbody>
    </table>
    <MeasuringField
      v-for="field in fields"
      :key="field.key"
      :field="field"
      :prefix="`${title}, settled`"
      @saved="emit('saved')"
    />
    <HeightLadder :marks="ladderOfCorner(corner)" :side="side" />
    <div v-if="check.correction" class="correction">
      <p v-if="away === 0" class="notice go" role="status">
        ✓ Toe is within the nearest flat of {{ corner.toe_target?.also }}. No turn is wanted.
      </p>
      <p v-else class="notice wait" role="status">
        <span>
          Turn the rod <b class="figure big">{{ check.correction.said.replace('−', '') }}</b>
          {{ away > 0 ? 'longer' : 'shorter' }}: toe goes to {{ check.corrected_toe?.also }}, wanted
          {{ corner.toe_target?.also }}. Then read it again.
        </span>
      </p>
      <TurnCounter v-if="away !== 0 && open" :side="side" direction="correct" />
      <p v-if="away !== 0 && !open" class="soft">Open the jam nut before the rod is turned.</p>
    </div>
    <p :class="['notice', open ? 'wait' : 'go']">
      {{ open ? '▮ The jam nut is open.' : '✓ The jam nut is closed.' }}
    </p>
    <FastenerBoard :group="jam" :side="side" until="torqued" />
  </section>
</template>

<style scoped>
.side,
.correction {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  align-content: start;
}

table {
  width: 100%;
  border-collapse: collapse;
}

th {
  font-weight: 600;
  text-align: left;
}

td,
th {
  padding: 6px 8px 6px 0;
  border-bottom: 1px solid var(--line);
}

tbody {
  font-size: 20px;
}

tbody th {
  font-family: var(--words);
  font-size: 16px;
}

small {
  font-size: 16px;
  color: var(--soft);
}

.off {
  color: var(--stop);
}

.off::before {
  content: '✕ ';
}

.big {
  font-size: 26px;
}

@media (width <= 760px) {
  tbody {
    font-size: 17px;
  }

  small {
    display: block;
  }
}
</style>
