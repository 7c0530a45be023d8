<script setup lang="ts">
import { ref, watch } from 'vue'

/** `usual` are reasons that one tap gives. */
const props = defineProps<{ title: string; detail?: string; confirm: string; usual?: string[] }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ given: [reason: string] }>()
const reason = ref('')
watch(open, (now) => now && (reason.value = ''))

function give(words = reason.value): void {
  if (!words.trim()) return
  open.value = false
  emit('given', words.trim())
}
</script>

<template>
  <el-dialog v-model="open" :title="props.title" width="480" append-to-body>
    <form class="grid gap-10px" @submit.prevent="give()">
      <p v-if="detail">{{ detail }}</p>
      <div v-if="usual?.length" class="row">
        <el-button v-for="one in usual" :key="one" @click="give(one)">{{ one }}</el-button>
      </div>
      <label class="grid gap-10px">
        Reason, for the record
        <el-input v-model="reason" :rows="3" maxlength="500" required type="textarea" />
      </label>
      <div class="row">
        <el-button type="primary" native-type="submit" :disabled="!reason.trim()">
          {{ confirm }}
        </el-button>
        <el-button @click="open = false">Back</el-button>
      </div>
    </form>
  </el-dialog>
</template>
