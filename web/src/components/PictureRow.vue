<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FilePick from './FilePick.vue'
import { computed } from 'vue'
import { ask, newId, sending } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useJob } from '../stores/job'

const props = defineProps<{ subject: string }>()
const store = useJob()
const { problem, busy, guarded } = useGuarded()
const own = computed(() => store.job?.pictures.filter((one) => one.subject === props.subject) ?? [])

const attach = (file: File) =>
  guarded(async () => {
    const { id: job_id, version: seen } = store.job!
    const query = { key: newId(), seen, subject: props.subject, name: file.name.slice(0, 120) }
    const told = { params: { path: { job_id }, query }, ...sending(file) }
    store.take(await ask((api) => api.POST('/api/jobs/{job_id}/pictures', told)))
  })
</script>

<template>
  <div class="flex flex-wrap gap-10px items-center">
    <a
      v-for="one in own"
      :key="one.sha256"
      :href="`${store.path}/pictures/${one.sha256}`"
      target="_blank"
      ><img
        :src="`${store.path}/pictures/${one.sha256}`"
        :alt="one.name"
        class="block h-72px edged"
    /></a>
    <FilePick
      label="Photo or sketch"
      accept="image/png,image/jpeg,image/webp"
      :shown="busy ? 'Keeping it…' : '+ Photo or sketch'"
      :disabled="busy"
      @picked="attach"
    />
    <RefusalNote :said="problem" />
  </div>
</template>
