export { ElAlert, ElButton, ElInput } from 'element-plus/es'
