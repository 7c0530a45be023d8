<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { ref, watch } from 'vue'
import type { WrenchAdapter } from '../composables/useJoints'

/** `together` is how many places one reason goes for. */
const props = defineProps<{ shut: boolean; reach: string; busy: boolean; together: number }>()
const emit = defineEmits<{ feel: [reason: string, all: boolean]; override: [reason: string] }>()
const adapter = defineModel<WrenchAdapter>({ required: true })
const feel = ref(props.reach)
const reason = ref('')
watch(
  () => props.reach,
  (words) => (feel.value = words),
)
</script>

<template>
  <FoldAway :open="!!reach" title="No wrench fits, or an adapter is on it">
    <div class="stack">
      <label class="labelled">
        By feel, because
        <el-input v-model="feel" maxlength="200" aria-label="By feel, because" />
      </label>
      <div class="row">
        <el-button :disabled="busy || feel.length < 3" @click="emit('feel', feel, false)">
          Torqued by feel: estimated for ever
        </el-button>
        <el-button
          v-if="together > 1"
          :disabled="busy || feel.length < 3"
          @click="emit('feel', feel, true)"
        >
          All {{ together }} by feel
        </el-button>
      </div>
      <div class="grid grid-cols-[repeat(3,minmax(0,1fr))] gap-10px">
        <label class="labelled">
          Wrench, mm
          <el-input v-model="adapter.wrench" class="figure" aria-label="Wrench length" />
        </label>
        <label class="labelled">
          Adapter, mm
          <el-input v-model="adapter.adapter" class="figure" aria-label="Adapter length" />
        </label>
        <label class="labelled">
          Angle, °
          <el-input v-model="adapter.angle" class="figure" aria-label="Adapter angle" />
        </label>
      </div>
      <template v-if="shut">
        <label class="labelled">
          Outside the rule, because
          <el-input v-model="reason" maxlength="300" aria-label="Outside the rule, because" />
        </label>
        <el-button :disabled="busy || reason.length < 3" @click="emit('override', reason)">
          Torque it anyway: stays on the record
        </el-button>
      </template>
    </div>
  </FoldAway>
</template>
