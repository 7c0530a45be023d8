<script setup lang="ts">
import { computed } from 'vue'
import type { FieldView, Side } from '../api/client'
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
const away = computed(() => check.value.correction?.total_flats ?? 0)
</script>

<template>
  <section class="card side" :aria-label="title">
    <h3>{{ title }}</h3>
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

.big {
  font-size: 26px;
}
</style>
