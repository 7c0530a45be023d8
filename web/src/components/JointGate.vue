<script setup lang="ts">
import { computed, ref } from 'vue'
import type { JointView } from '../api/client'
import { useActing } from '../composables/useActing'
import { sayNumber } from '../composables/useWords'
import { useJob } from '../stores/job'

/** Whether bonded rubber may be clamped now, and the height that is read for it. */
const props = defineProps<{ joint: JointView }>()
const store = useJob()
const { problem, busy, act } = useActing()
const height = ref('')

const unsettled = computed(() => store.job?.position === 'on_wheels' && !store.job.settled)

async function readHeight(): Promise<void> {
  const at = { text: height.value, unit: 'mm' }
  const side = props.joint.side as 'left' | 'right'
  const axle = props.joint.axle as 'front' | 'rear'
  if (await act({ kind: 'height_read', side, axle, height: at })) height.value = ''
}
</script>

<template>
  <div class="stack">
    <p v-if="store.gateWaits" class="notice wait" role="status">
      ▮ Where the car stands now waits to be sent: whether this may be torqued is known once the
      connection is back.
    </p>
    <p v-else-if="joint.gate_open" class="notice go" role="status">
      ✓
      {{
        joint.height_mm
          ? `${sayNumber(joint.height_mm)} mm is inside the clamp window: it may be torqued now.`
          : 'On its wheels and settled: it may be torqued now.'
      }}
    </p>
    <p v-else class="notice wait" role="status">▮ {{ joint.gate }}</p>
    <el-button v-if="unsettled" :disabled="busy" @click="act({ kind: 'settled' })">
      Rolled and bounced: it is settled
    </el-button>
    <div class="row">
      <label class="labelled">
        Hub to arch now
        <input
          v-model="height"
          class="box figure"
          inputmode="decimal"
          :aria-label="`${joint.label}: hub to arch now`"
          @keydown.enter.prevent="readHeight"
        />
      </label>
      <el-button :disabled="busy" @click="readHeight">Record height</el-button>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </div>
</template>
