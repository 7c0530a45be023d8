<script setup lang="ts">
/** A choice from a list that opens, with its label: `of` are the values and the words they are shown by. */
defineProps<{ label: string; of: Record<string, string> }>()
const chosen = defineModel<string>({ required: true })
</script>

<template>
  <label>
    {{ label }}
    <el-select
      v-model="chosen"
      :persistent="false"
      :aria-label="label"
      :empty-values="[null, undefined]"
    >
      <el-option v-for="(words, value) in of" :key="value" :value="value" :label="words" />
    </el-select>
  </label>
</template>
