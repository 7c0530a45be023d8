<script setup lang="ts">
import { useActing } from '../composables/useActing'
import { useJob } from '../stores/job'

const store = useJob()
const { problem, busy, act } = useActing()

function undo(): void {
  if (store.job?.last_event) void act({ kind: 'undone', event: store.job.last_event })
}
</script>

<template>
  <div class="undo screen-only">
    <p v-if="store.refused" class="notice stop" role="alert">
      <span>An entry that had waited was refused: {{ store.refused.message }}</span>
      <el-button text @click="store.dismissRefusal">Understood</el-button>
    </p>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <div v-if="store.job?.last_event && !store.job.signature" class="last">
      <span class="soft">Last: {{ store.job.last_said }}</span>
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
