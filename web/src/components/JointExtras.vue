<script setup lang="ts">
import { ref, watch } from 'vue'
import type { WrenchAdapter } from '../composables/useJoints'

const props = defineProps<{ shut: boolean; reach: string; busy: boolean }>()
const emit = defineEmits<{ feel: [reason: string]; override: [reason: string] }>()
const adapter = defineModel<WrenchAdapter>({ required: true })
const feel = ref(props.reach)
const reason = ref('')
watch(
  () => props.reach,
  (words) => (feel.value = words),
)
</script>

<template>
  <details :open="!!reach">
    <summary>No wrench fits, or an adapter is on it</summary>
    <div class="stack">
      <label class="labelled">
        By feel, because
        <input v-model="feel" class="box" maxlength="200" aria-label="By feel, because" />
      </label>
      <el-button :disabled="busy || feel.length < 3" @click="emit('feel', feel)">
        Torqued by feel: estimated for ever
      </el-button>
      <div class="adapter">
        <label class="labelled">
          Wrench, mm
          <input v-model="adapter.wrench" class="box figure" aria-label="Wrench length" />
        </label>
        <label class="labelled">
          Adapter, mm
          <input v-model="adapter.adapter" class="box figure" aria-label="Adapter length" />
        </label>
        <label class="labelled">
          Angle, °
          <input v-model="adapter.angle" class="box figure" aria-label="Adapter angle" />
        </label>
      </div>
      <template v-if="shut">
        <label class="labelled">
          Outside the rule, because
          <input
            v-model="reason"
            class="box"
            maxlength="300"
            aria-label="Outside the rule, because"
          />
        </label>
        <el-button :disabled="busy || reason.length < 3" @click="emit('override', reason)">
          Torque it anyway: stays on the record
        </el-button>
      </template>
    </div>
  </details>
</template>

<style scoped>
.adapter {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px;
}

summary {
  padding: 10px 0;
  font-weight: 600;
  cursor: pointer;
}
</style>
