<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { ref, shallowRef } from 'vue'
import { ask, type RestoreView } from '../api/client'
import { useRead } from '../composables/useRead'
import { sayMoment } from '../composables/useWords'

/** The copies the workshop keeps of itself: made now, looked into, brought back. */
const {
  found: copies,
  problem,
  busy,
  guarded,
} = useRead(['backups'], (api) => api.GET('/api/backups'))
const looked = ref('')
const found = shallowRef<RestoreView | null>(null)

const keep = () =>
  guarded(async () => {
    copies.value = await ask((api) => api.POST('/api/backups'))
  })

const bring = (name: string, apply: boolean) =>
  guarded(async () => {
    looked.value = name
    found.value = await ask((api) =>
      api.POST('/api/backups/{name}/restore', { params: { path: { name }, query: { apply } } }),
    )
  })
</script>

<template>
  <section class="card stack" aria-label="Kept copies">
    <h3>Kept copies</h3>
    <p class="soft">
      At each start and every day the workshop keeps a checked copy of itself: ten of them, no more
      than three of one day.
    </p>
    <ul v-if="copies?.length" class="grid gap-4px bare-list">
      <li v-for="one in copies" :key="one.name" class="stack">
        <div class="row line items-center justify-between">
          <span class="figure">{{ sayMoment(one.at) }}</span>
          <el-button text :disabled="busy" @click="bring(one.name, false)">Look into it</el-button>
        </div>
        <template v-if="looked === one.name && found">
          <el-alert :type="found.applied ? 'success' : 'warning'" :closable="false" role="status">
            {{ found.said }}
          </el-alert>
          <el-button
            v-if="!found.applied"
            type="primary"
            :disabled="busy"
            @click="bring(one.name, true)"
          >
            Bring it back in the place of what is here
          </el-button>
        </template>
      </li>
    </ul>
    <p v-else class="soft">None yet.</p>
    <el-button :disabled="busy" @click="keep">Keep a copy now</el-button>
    <RefusalNote :said="problem" />
  </section>
</template>
