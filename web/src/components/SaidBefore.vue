<script setup lang="ts">
import { computed, useId } from 'vue'

/** Words in a field that were likely said before, on this car or job: the browser offers those that fit. */
const props = defineProps<{ before: (string | undefined)[]; maxlength: string }>()
const said = defineModel<string>({ required: true })
const list = useId()
const known = computed(() => [...new Set(props.before)].filter(Boolean))
</script>

<template>
  <el-input v-model="said" :maxlength="maxlength" :list="list" autocomplete="off" />
  <datalist :id="list">
    <option v-for="one in known" :key="one" :value="one" />
  </datalist>
</template>
