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
    <span class="pick-file">{{ shown ?? label }}</span>
  </el-upload>
</template>

<style scoped>
.pick-file {
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 14px;
  font-weight: 600;
  color: var(--go);
  border: 1px dashed var(--soft);
  border-radius: var(--radius);
}
</style>
