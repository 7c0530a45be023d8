<script setup lang="ts">
import 'element-plus/theme-chalk/el-progress.css'
import { computed } from 'vue'

/** How much of what is asked was read, drawn as a bar beside the words that say it. */
const props = defineProps<{ done: number; of: number }>()
const drawn = computed(() =>
  props.of ? Math.min(100, Math.max(0, (100 * props.done) / props.of)) : 100,
)
</script>

<template>
  <el-progress :percentage="drawn" :show-text="false" :stroke-width="8" aria-hidden="true" />
</template>
