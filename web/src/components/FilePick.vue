<script setup lang="ts">
import type { UploadFile } from 'element-plus'

/** A file to look into: chosen or dropped; nothing is sent from here. */
defineProps<{ label: string; accept: string; shown?: string; disabled?: boolean }>()
const emit = defineEmits<{ picked: [file: File] }>()
const pick = (one: UploadFile) => one.raw && emit('picked', one.raw)
</script>

<template>
  <el-upload
    role="group"
    :aria-label="label"
    :accept="accept"
    :disabled="disabled"
    :auto-upload="false"
    :show-file-list="false"
    :on-change="pick"
  >
    <span
      class="grid place-items-center min-h-44px py-0 px-14px font-600 c-go b-1px b-dashed b-soft rounded"
      >{{ shown ?? label }}</span
    >
  </el-upload>
</template>
