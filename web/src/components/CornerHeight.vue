<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import type { Side } from '../api/client'
import { useActing } from '../composables/useActing'
import { useChoices } from '../stores/choices'
import { useJob } from '../stores/job'
import { ladderOfCorner } from '../composables/useLadder'
import HeightLadder from './HeightLadder.vue'
import UnitInput from './UnitInput.vue'

const props = defineProps<{ side: Side }>()
const store = useJob()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const text = ref('')
const unit = ref('mm')
const gate = computed(() => store.job!.gates[props.side])
const corner = computed(() => store.job!.corners[props.side])

async function read(): Promise<void> {
  const height = { text: text.value, unit: unit.value }
  if (await act({ kind: 'height_read', side: props.side, height })) text.value = ''
}
</script>

<template>
  <section class="corner" :aria-label="`${side} corner height`">
    <HeightLadder :marks="ladderOfCorner(corner)" :side="side" :live="gate.height_mm" />
    <div class="reading">
      <label>
        Hub to arch now, {{ side }}
        <UnitInput
          v-model:text="text"
          v-model:unit="unit"
          :label="`Hub to arch now, ${side}`"
          :units="choices.length_units"
          @enter="read"
        />
      </label>
      <el-button type="primary" :disabled="busy" @click="read">Record height</el-button>
      <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
      <p v-if="gate.open" class="notice go" role="status">
        ✓ {{ gate.height_mm }} mm is inside the window: the bonded bolts of this corner may be
        torqued now.
      </p>
      <p v-else class="notice wait" role="status">▮ {{ gate.reason }}</p>
    </div>
  </section>
</template>

<style scoped>
.corner {
  display: grid;
  grid-template-columns: minmax(0, 300px) minmax(0, 1fr);
  gap: 18px;
}

.reading {
  display: grid;
  gap: 12px;
  align-content: start;
}

label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}

@media (width <= 760px) {
  .corner {
    grid-template-columns: minmax(0, 1fr);
  }

  .reading {
    grid-row: 1;
  }
}
</style>
