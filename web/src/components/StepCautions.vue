<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'

/** Where the danger is: in full the first time it applies in a job, then one red line that opens. */
const props = defineProps<{ cautions: string[]; job: string }>()
const known = useStorage<string[]>(() => `fair-spindle/cautions/${props.job}`, [])
const fresh = computed(() => props.cautions.filter((one) => !known.value.includes(one)))
const rest = computed(() => props.cautions.filter((one) => known.value.includes(one)))

function understood(): void {
  known.value = [...known.value, ...fresh.value]
}
</script>

<template>
  <el-alert v-if="fresh.length" type="error" :closable="false" role="note">
    <ul aria-label="Cautions" class="grid gap-4px pl-22px m-0">
      <li v-for="one in fresh" :key="one">{{ one }}</li>
    </ul>
    <el-button @click="understood">Understood</el-button>
  </el-alert>
  <FoldAway
    v-if="rest.length"
    class="known"
    :title="`${rest.length > 1 ? `${rest.length} cautions: ` : ''}${rest[0]}`"
  >
    <ul aria-label="Cautions" class="grid gap-4px pl-22px m-0">
      <li v-for="one in rest" :key="one">{{ one }}</li>
    </ul>
  </FoldAway>
</template>

<style scoped>
li::marker {
  content: '▲  ';
}

.known {
  --el-collapse-header-text-color: var(--stop);
  --el-collapse-content-text-color: var(--stop);
  --el-collapse-header-bg-color: var(--stop-wash);

  padding: 0 12px;
  background: var(--stop-wash);
  border-left: 5px solid var(--stop);
  border-radius: var(--radius);
}

.known :deep(.el-collapse-item__title) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.known :deep(.is-active .el-collapse-item__title) {
  white-space: normal;
}
</style>
