<script setup lang="ts">
import { computed, ref } from 'vue'
import { newId, Offline, Refusal, send, type JobView } from '../api/client'
import { useJob } from '../stores/job'

const props = defineProps<{ subject: string }>()
const store = useJob()
const problem = ref('')
const busy = ref(false)
const own = computed(() => store.job?.pictures.filter((one) => one.subject === props.subject) ?? [])

async function attach(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file || !store.job) return
  busy.value = true
  problem.value = ''
  const words = { key: newId(), seen: String(store.job.version), subject: props.subject }
  const query = new URLSearchParams({ ...words, name: file.name.slice(0, 120) })
  try {
    store.take(await send<JobView>('POST', `${store.path}/pictures?${query}`, file))
  } catch (error) {
    if (!(error instanceof Refusal || error instanceof Offline)) throw error
    problem.value = error.message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="pictures">
    <a
      v-for="one in own"
      :key="one.sha256"
      :href="`${store.path}/pictures/${one.sha256}`"
      target="_blank"
      ><img :src="`${store.path}/pictures/${one.sha256}`" :alt="one.name"
    /></a>
    <label class="add">
      <span>{{ busy ? 'Keeping it…' : '+ Photo or sketch' }}</span>
      <input
        type="file"
        accept="image/png,image/jpeg,image/webp"
        aria-label="Photo or sketch"
        :disabled="busy"
        @change="attach"
      />
    </label>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}

img {
  display: block;
  height: 72px;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.add {
  position: relative;
  display: grid;
  place-items: center;
  min-height: 48px;
  padding: 0 14px;
  color: var(--go);
  cursor: pointer;
  border: 1px dashed var(--soft);
  border-radius: var(--radius);
}

.add:focus-within {
  outline: 3px solid var(--brass);
}

.add input {
  position: absolute;
  inset: 0;
  cursor: pointer;
  opacity: 0;
}
</style>
