<script setup lang="ts">
import { computed } from 'vue'
import { useActing } from '../composables/useActing'
import { useJob } from '../stores/job'

const emit = defineEmits<{ settled: [] }>()
const store = useJob()
const { problem, busy, act } = useActing()
const onWheels = computed(() => store.job?.position === 'on_wheels')

async function settle(): Promise<void> {
  if (await act({ kind: 'settled' })) emit('settled')
}
</script>

<template>
  <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  <p v-if="!onWheels" class="notice stop" role="status">
    ✕ The car is {{ store.job?.position_said }}. Readings at the wheels are taken settled, on its
    wheels; taken now they are marked.
  </p>
  <div v-else-if="!store.job?.settled" class="notice wait" role="status">
    <span>
      ▲ Roll the car a length and back, bounce both ends. Readings before that are marked.
    </span>
    <el-button type="primary" :disabled="busy" @click="settle"> It is settled </el-button>
  </div>
  <p v-else class="go" role="status">✓ The car is settled on its wheels.</p>
</template>

<style scoped>
.notice {
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
}

.go {
  font-weight: 600;
  color: var(--go);
}
</style>
