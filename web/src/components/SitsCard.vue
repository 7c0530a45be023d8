<script setup lang="ts">
import { computed } from 'vue'
import type { SitsView } from '../api/client'
import { ladderOfWheel } from '../composables/useLadder'
import { sayNumber, saySigned } from '../composables/useWords'
import { useGauges } from '../stores/gauges'
import HeightLadder from './HeightLadder.vue'

const props = defineProps<{ wheel: SitsView; tried?: SitsView; angles?: string; moved: boolean }>()
const gauges = useGauges()
const live = computed(() => {
  const gauge = gauges.paired.find((one) => one.quantity === 'length')
  const line = gauge && gauges.lines[gauge.id]
  const shown = line?.held ?? (line?.stable ? line.now : null)
  return shown?.unit === 'mm' ? shown.value : null
})
const shown = computed(() => (props.moved && props.tried) || props.wheel)
</script>

<template>
  <section
    class="card grid grid-cols-[minmax(0,1fr)_minmax(0,230px)] gap-12px max-[520px]:one-col"
    :aria-label="wheel.label"
  >
    <div class="grid gap-4px content-start">
      <h3>{{ wheel.label }}</h3>
      <p class="figure text-28px" role="status">
        {{ saySigned(shown.change_mm) }} mm
        <span v-if="!moved && wheel.plus_minus_mm !== null" class="soft text-18px">
          ± {{ sayNumber(wheel.plus_minus_mm) }}
        </span>
        <span v-if="moved" class="soft text-18px">as tried</span>
      </p>
      <p v-if="shown.predicted_mm !== null">
        stands at <b class="figure">{{ sayNumber(shown.predicted_mm) }} mm</b>
        <span v-if="wheel.target_mm !== null"> · wanted {{ sayNumber(wheel.target_mm) }}</span>
      </p>
      <p v-if="shown.laden_mm !== null">
        with those aboard <b class="figure">{{ sayNumber(shown.laden_mm) }} mm</b>
      </p>
      <p v-if="shown.stop_pressed_mm" class="font-600 c-wait">
        ▲ on its bump stop, pressed {{ sayNumber(shown.stop_pressed_mm, 0) }} mm
      </p>
      <p v-if="shown.load_n !== null && wheel.load_before_n !== null">
        load <b class="figure">{{ sayNumber(shown.load_n, 0) }} N</b
        ><span class="soft"> from {{ sayNumber(wheel.load_before_n, 0) }}</span>
      </p>
      <p v-if="shown.spring_mm !== null" class="soft">
        spring {{ sayNumber(shown.spring_mm) }} mm seat to seat
      </p>
      <p v-if="angles" class="soft">toe {{ angles }}</p>
    </div>
    <HeightLadder :marks="ladderOfWheel(shown)" :side="wheel.label" :live="live" />
  </section>
</template>
