<script setup lang="ts">
import FilePick from './FilePick.vue'
import { computed, ref } from 'vue'
import { newId, Offline, Refusal, send, type JobView } from '../api/client'
import { useJob } from '../stores/job'

const props = defineProps<{ subject: string }>()
const store = useJob()
const problem = ref('')
const busy = ref(false)
const own = computed(() => store.job?.pictures.filter((one) => one.subject === props.subject) ?? [])

async function attach(file: File): Promise<void> {
  if (!store.job) return
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
    <FilePick
      label="Photo or sketch"
      accept="image/png,image/jpeg,image/webp"
      :shown="busy ? 'Keeping it…' : '+ Photo or sketch'"
      :disabled="busy"
      @picked="attach"
    />
    <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
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
</style>
