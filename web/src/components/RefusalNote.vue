<script setup lang="ts">
import { ElAlert } from '../parts/later'

/** Why something was refused or is not there, where it can be read; nothing where there is nothing to say. */
defineProps<{ said: string | null | undefined }>()
</script>

<template>
  <el-alert v-if="said" type="error" :closable="false" role="alert">{{ said }}</el-alert>
</template>
