<script setup lang="ts">
import { ref, watch } from 'vue'

/** Something that is seldom wanted, behind its title; what the reader opened stays open. */
const props = defineProps<{ title: string; open?: boolean }>()
const shown = () => (props.open ? ['it'] : [])
const opened = ref(shown())
watch(
  () => props.open,
  () => (opened.value = shown()),
)
</script>

<template>
  <el-collapse v-model="opened">
    <el-collapse-item name="it" :title="title"><slot /></el-collapse-item>
  </el-collapse>
</template>
