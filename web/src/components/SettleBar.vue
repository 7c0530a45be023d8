<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
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
  <RefusalNote :said="problem" />
  <el-alert v-if="!onWheels" type="error" :closable="false" role="status">
    ✕ The car is {{ store.job?.position_said }}. Readings at the wheels are taken settled, on its
    wheels; taken now they are marked.
  </el-alert>
  <el-alert v-else-if="!store.job?.settled" type="warning" :closable="false" role="status">
    <span>
      ▲ Roll the car a length and back, bounce both ends. Readings before that are marked.
    </span>
    <el-button type="primary" :disabled="busy" @click="settle"> It is settled </el-button>
  </el-alert>
  <p v-else class="font-600 c-go" role="status">✓ The car is settled on its wheels.</p>
</template>
