<script setup lang="ts">
import FieldsHere from './FieldsHere.vue'
import RefusalNote from './RefusalNote.vue'
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
    <el-alert v-if="store.gateWaits" type="warning" :closable="false" role="status">
      ▮ Where the car stands now waits to be sent: whether this may be torqued is known once the
      connection is back.
    </el-alert>
    <el-alert v-else-if="joint.gate_open" type="success" :closable="false" role="status">
      ✓
      {{
        joint.height_mm
          ? `${sayNumber(joint.height_mm)} mm is inside the clamp window: it may be torqued now.`
          : 'On its wheels and settled: it may be torqued now.'
      }}
    </el-alert>
    <el-alert v-else type="warning" :closable="false" role="status">▮ {{ joint.gate }}</el-alert>
    <p v-if="joint.window_usual && !joint.gate_open" class="soft">{{ joint.window_usual }}</p>
    <FieldsHere v-if="joint.asked.length" :keys="joint.asked" />
    <el-button v-if="unsettled" :disabled="busy" @click="act({ kind: 'settled' })">
      Rolled and bounced: it is settled
    </el-button>
    <div class="row">
      <label class="labelled">
        Hub to arch now
        <el-input
          v-model="height"
          class="figure"
          inputmode="decimal"
          :aria-label="`${joint.label}: hub to arch now`"
          @keydown.enter.prevent="readHeight"
        />
      </label>
      <el-button :disabled="busy" @click="readHeight">Record height</el-button>
    </div>
    <RefusalNote :said="problem" />
  </div>
</template>
