<script setup lang="ts">
import { ref } from 'vue'

/** A reading that is off its value stays only with words for the record. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ keep: [reason: string] }>()
const reason = ref('')
</script>

<template>
  <form class="row" @submit.prevent="emit('keep', reason)">
    <el-input
      v-model="reason"
      class="flex-1 min-w-0"
      maxlength="200"
      placeholder="Why this reading stays"
      aria-label="Why this reading stays"
    />
    <el-button native-type="submit" :disabled="busy || !reason.trim()">Keep it</el-button>
  </form>
</template>
