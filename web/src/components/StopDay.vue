<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { ref } from 'vue'
import { useActing } from '../composables/useActing'
import { useRead } from '../composables/useRead'
import { useJob } from '../stores/job'

const store = useJob()
const { problem: refused, busy, act } = useActing()
const open = ref(false)
const note = ref('')
const { found: left, problem } = useRead(
  () => ['jobs', store.job!.id, 'stop'],
  (api) => api.GET('/api/jobs/{job_id}/stop', { params: { path: { job_id: store.job!.id } } }),
  { version: () => store.version, when: open },
)

async function stop(): Promise<void> {
  if (await act({ kind: 'stopped', note: note.value.trim() })) note.value = ''
}
</script>

<template>
  <section class="card stack" aria-label="Stop for the day">
    <button
      type="button"
      class="min-h-44px font-600 text-left bare-button"
      :aria-expanded="open"
      @click="open = !open"
    >
      ◐ Stop for the day
    </button>
    <template v-if="open && left">
      <el-alert v-if="left.may_be_driven" type="success" :closable="false" role="note">
        ✓ Nothing is loose; it stands on its wheels.
      </el-alert>
      <el-alert v-else type="error" :closable="false" role="note"
        >▲ Not to be driven. The car is {{ left.position }}.</el-alert
      >
      <template v-if="left.loose.length">
        <b>Loose right now</b>
        <ul aria-label="Loose right now" class="pl-20px m-0">
          <li v-for="one in left.loose" :key="one">{{ one }}</li>
        </ul>
      </template>
      <template v-if="left.begun.length">
        <b>Begun and not closed</b>
        <ul class="pl-20px m-0">
          <li v-for="one in left.begun" :key="one">{{ one }}</li>
        </ul>
      </template>
      <p v-if="left.next_step">Goes on with: {{ left.next_step }}.</p>
      <form class="row" @submit.prevent="stop">
        <el-input
          v-model="note"
          class="flex-1 min-w-0"
          maxlength="500"
          placeholder="For whoever goes on"
          aria-label="Note for whoever goes on"
        />
        <el-button native-type="submit" :disabled="busy">Stop here</el-button>
      </form>
      <p v-if="left.at" class="soft">
        Stopped {{ left.at.slice(0, 16).replace('T', ' ') }} UTC{{
          left.note ? `: ${left.note}` : ''
        }}
      </p>
      <a :href="`${store.path}/stop.pdf`" class="font-600">Sheet for the driver's seat</a>
    </template>
    <RefusalNote :said="problem || refused" />
  </section>
</template>
