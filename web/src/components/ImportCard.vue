<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FilePick from './FilePick.vue'
import { ref } from 'vue'
import { ask, sending, type ImportView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

const emit = defineEmits<{ added: [] }>()
const file = ref<File | null>(null)
const preview = ref<ImportView | null>(null)
const answer = ref('')
const { problem, busy, guarded } = useGuarded()

const bring = (query: { apply: boolean; car?: string }) =>
  guarded(async () => {
    const sent = { params: { query }, ...sending(file.value!) }
    const told = await ask((api) => api.POST('/api/jobs/import', sent))
    preview.value = told
    answer.value = told.answers[0]?.value ?? ''
  })

async function choose(picked: File): Promise<void> {
  file.value = picked
  preview.value = null
  await bring({ apply: false })
}

async function add(): Promise<void> {
  if (await bring({ apply: true, car: answer.value })) emit('added')
}
</script>

<template>
  <div class="card stack">
    <h3>Bring in a job file</h3>
    <FilePick
      label="Job file (JSON or ZIP)"
      accept=".json,.zip,application/json"
      @picked="choose"
    />
    <template v-if="preview">
      <el-alert type="success" :closable="false" role="status">
        <span>
          <b>{{ preview.title }}</b>, {{ preview.car }}: {{ preview.entries }} entries.
          {{ preview.said }}
        </span>
      </el-alert>
      <template v-if="preview.answers.length">
        <b>Which car is it?</b>
        <el-radio-group v-model="answer" aria-label="Which car is it?">
          <el-radio v-for="one in preview.answers" :key="one.value" :value="one.value">
            {{ one.label }}
          </el-radio>
        </el-radio-group>
      </template>
      <el-button
        v-if="!preview.applied && (preview.outcome === 'new' || preview.answers.length)"
        type="primary"
        :disabled="busy"
        @click="add"
      >
        {{ preview.outcome === 'new' ? 'Add this job' : 'Do that' }}
      </el-button>
    </template>
    <RefusalNote :said="problem" />
  </div>
</template>
