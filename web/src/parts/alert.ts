export { ElAlert as default } from 'element-plus/es'
