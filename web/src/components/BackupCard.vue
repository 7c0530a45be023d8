<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import { send, type RestoreView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

const { problem, busy, guarded } = useGuarded()
const file = ref<File | null>(null)
const found = shallowRef<RestoreView | null>(null)

const look = (event: Event) =>
  guarded(async () => {
    const input = event.target as HTMLInputElement
    file.value = input.files?.[0] ?? null
    found.value = null
    input.value = ''
    if (file.value) found.value = await send<RestoreView>('POST', '/api/restore', file.value)
  })

const putBack = () =>
  guarded(async () => {
    found.value = await send<RestoreView>('POST', '/api/restore?apply=true', file.value!)
  })
</script>

<template>
  <section class="card stack" aria-label="Backup">
    <h3>Backup</h3>
    <p class="soft">Everything in one file, checked while it is made; work can go on meanwhile.</p>
    <a href="/api/backup" download="fair-spindle-workshop.zip">Save a backup</a>
    <label class="labelled">
      Put a backup back (ZIP)
      <input type="file" accept=".zip" class="box" @change="look" />
    </label>
    <p v-if="busy" class="soft" role="status">Checking the copy…</p>
    <template v-if="found">
      <p class="notice" :class="found.applied ? 'go' : 'wait'" role="status">{{ found.said }}</p>
      <el-button v-if="!found.applied" type="primary" :disabled="busy" @click="putBack">
        Put it in the place of what is here
      </el-button>
    </template>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
a {
  padding: 10px 0;
  font-weight: 600;
}
</style>
