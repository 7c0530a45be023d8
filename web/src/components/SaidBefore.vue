<script setup lang="ts">
import 'element-plus/theme-chalk/el-autocomplete.css'
import { computed } from 'vue'

/** Words in a field that were likely said before, on this car or job: the first letters bring them. */
const props = defineProps<{ before: (string | undefined)[]; maxlength: string }>()
const said = defineModel<string>({ required: true })
const known = computed(() => [...new Set(props.before)].filter((one): one is string => !!one))
const find = (typed: string) =>
  known.value
    .filter((one) => one !== typed && one.toLowerCase().includes(typed.trim().toLowerCase()))
    .map((value) => ({ value }))
</script>

<template>
  <el-autocomplete
    v-model="said"
    :fetch-suggestions="find"
    :debounce="0"
    :maxlength="maxlength"
    fit-input-width
  />
</template>
