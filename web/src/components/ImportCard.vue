<script setup lang="ts">
import { ref } from 'vue'
import { send, type ImportView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

const emit = defineEmits<{ added: [] }>()
const file = ref<File | null>(null)
const preview = ref<ImportView | null>(null)
const answer = ref('')
const { problem, busy, guarded } = useGuarded()

const bring = (query: string) =>
  guarded(async () => {
    const told = await send<ImportView>('POST', `/api/jobs/import?${query}`, file.value!)
    preview.value = told
    answer.value = told.answers[0]?.value ?? ''
  })

async function choose(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0] ?? null
  preview.value = null
  if (file.value) await bring('apply=false')
  input.value = ''
}

async function add(): Promise<void> {
  if (await bring(`apply=true&car=${encodeURIComponent(answer.value)}`)) emit('added')
}
</script>

<template>
  <div class="card stack">
    <h3>Bring in a job file</h3>
    <label class="labelled">
      Job file (JSON or ZIP)
      <input type="file" accept=".json,.zip,application/json" class="box" @change="choose" />
    </label>
    <template v-if="preview">
      <p class="notice go" role="status">
        <span>
          <b>{{ preview.title }}</b>, {{ preview.car }}: {{ preview.entries }} entries.
          {{ preview.said }}
        </span>
      </p>
      <fieldset v-if="preview.answers.length" class="stack">
        <legend>Which car is it?</legend>
        <label v-for="one in preview.answers" :key="one.value" class="answer">
          <input v-model="answer" type="radio" name="car" :value="one.value" />
          {{ one.label }}
        </label>
      </fieldset>
      <el-button
        v-if="!preview.applied && (preview.outcome === 'new' || preview.answers.length)"
        type="primary"
        :disabled="busy"
        @click="add"
      >
        {{ preview.outcome === 'new' ? 'Add this job' : 'Do that' }}
      </el-button>
    </template>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
fieldset {
  padding: 0;
  margin: 0;
  border: 0;
}

legend {
  margin-bottom: 8px;
  font-weight: 600;
}

.answer {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  min-height: 44px;
  cursor: pointer;
}

.answer input {
  width: 24px;
  height: 24px;
}
</style>
