<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FilePick from './FilePick.vue'
import { ref, shallowRef } from 'vue'
import { ask, sending, type RestoreView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

const { problem, busy, guarded } = useGuarded()
const file = ref<File | null>(null)
const found = shallowRef<RestoreView | null>(null)

const bring = (picked: File, apply: boolean) =>
  guarded(async () => {
    const told = { params: { query: { apply } }, ...sending(picked) }
    found.value = await ask((api) => api.POST('/api/restore', told))
  })

function look(picked: File): void {
  file.value = picked
  found.value = null
  void bring(picked, false)
}

const putBack = () => bring(file.value!, true)
</script>

<template>
  <section class="card stack" aria-label="Backup">
    <h3>Backup</h3>
    <p class="soft">Everything in one file, checked while it is made; work can go on meanwhile.</p>
    <a href="/api/backup" download="fair-spindle-workshop.zip" class="py-10px px-0 font-600"
      >Save a backup</a
    >
    <a href="/api/backup?practice=true" download="fair-spindle-workshop.zip" class="py-10px px-0"
      >The same with practice jobs</a
    >
    <FilePick label="Put a backup back (ZIP)" accept=".zip" @picked="look" />
    <p v-if="busy" class="soft" role="status">Checking the copy…</p>
    <template v-if="found">
      <el-alert :type="found.applied ? 'success' : 'warning'" :closable="false" role="status">{{
        found.said
      }}</el-alert>
      <el-button v-if="!found.applied" type="primary" :disabled="busy" @click="putBack">
        Put it in the place of what is here
      </el-button>
    </template>
    <RefusalNote :said="problem" />
  </section>
</template>
