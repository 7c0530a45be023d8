<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import type { BookView } from '../api/client'
import { useActing } from '../composables/useActing'
import type { Book } from '../stores/book'
import { useQueue } from '../stores/queue'
import WaitingPanel from './WaitingPanel.vue'

const props = defineProps<{ book: Book<BookView>; closed?: boolean }>()
const { view, waiting } = props.book
const queue = useQueue()
const lastWaiting = computed(() => waiting.value.at(-1))
const { problem, busy, act } = useActing()

/** What was not sent yet is taken back here; what is in the log is undone there. */
function undo(): void {
  const own = lastWaiting.value
  if (own) return queue.drop(own.book, [own.entry.id])
  if (view.value?.last_event) void act({ kind: 'undone', event: view.value.last_event })
}
</script>

<template>
  <div class="screen-only grid one-col gap-8px mb-12px">
    <WaitingPanel :book="book" />
    <RefusalNote :said="problem" />
    <div
      v-if="(lastWaiting || view?.last_event) && !closed"
      class="last flex gap-10px items-center justify-end"
    >
      <span class="soft min-w-0 overflow-hidden [text-overflow:ellipsis] whitespace-nowrap">
        Last: {{ lastWaiting ? `${lastWaiting.said} (waits)` : view?.last_said }}
      </span>
      <el-button text :disabled="busy" @click="undo">↶ Undo</el-button>
    </div>
  </div>
</template>

<style scoped>
.last .el-button {
  flex: none;
  white-space: nowrap;
}
</style>
