<script setup lang="ts">
import type { BookView } from '../api/client'
import { useActing } from '../composables/useActing'
import type { Book } from '../stores/book'

const props = defineProps<{ book: Book<BookView>; closed?: boolean }>()
const { view, refused } = props.book
const { problem, busy, act } = useActing()

function undo(): void {
  if (view.value?.last_event) void act({ kind: 'undone', event: view.value.last_event })
}
</script>

<template>
  <div class="undo screen-only">
    <p v-if="refused" class="notice stop" role="alert">
      <span>An entry that had waited was refused: {{ refused.message }}</span>
      <el-button text @click="book.dismissRefusal()">Understood</el-button>
    </p>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <div v-if="view?.last_event && !closed" class="last">
      <span class="soft">Last: {{ view.last_said }}</span>
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
