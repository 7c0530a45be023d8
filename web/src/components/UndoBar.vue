<script setup lang="ts">
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
  <div class="undo screen-only">
    <WaitingPanel :book="book" />
    <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
    <div v-if="(lastWaiting || view?.last_event) && !closed" class="last">
      <span class="soft">
        Last: {{ lastWaiting ? `${lastWaiting.said} (waits)` : view?.last_said }}
      </span>
      <el-button text :disabled="busy" @click="undo">↶ Undo</el-button>
    </div>
  </div>
</template>

<style scoped>
.undo {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  margin-bottom: 12px;
}

.last {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: flex-end;
}

.last .el-button {
  flex: none;
  white-space: nowrap;
}

.last > span {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
