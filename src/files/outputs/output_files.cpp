// SPDX-License-Identifier: MIT
// Which list of outputs a thread saves to.
#include "grafema/files/output_files.hpp"

#include "files/outputs/staged_files.hpp"

namespace grafema {
namespace {

detail::StagedFiles*& innermost() {
  static thread_local detail::StagedFiles* list = nullptr;
  return list;
}

}  // namespace

struct OutputFiles::State {
  detail::StagedFiles files;
  std::set<detail::FileKey> read;
  detail::StagedFiles* files_before = nullptr;
  std::set<detail::FileKey>* read_before = nullptr;
};

OutputFiles::OutputFiles() : state_(std::make_unique<State>()) {
  state_->files_before = std::exchange(innermost(), &state_->files);
  state_->read_before = detail::files_read();
  if (state_->read_before == nullptr) detail::files_read() = &state_->read;
}

OutputFiles::~OutputFiles() {
  innermost() = state_->files_before;
  detail::files_read() = state_->read_before;
}

FileResult<void> OutputFiles::commit() {
  if (state_->files_before == nullptr) return state_->files.commit();
  state_->files.hand_to(*state_->files_before);
  return {};
}

ReplaceableReads::ReplaceableReads() : before_(std::exchange(detail::files_read(), nullptr)) {}
ReplaceableReads::~ReplaceableReads() {
  detail::files_read() = static_cast<std::set<detail::FileKey>*>(before_);
}

detail::StagedFiles* detail::staged_here() { return innermost(); }

FileResult<void> detail::save_keeping(const std::string& path, std::span<const std::byte> bytes,
                                      const std::string& keep_as) {
  static const std::set<FileKey> none;
  StagedFiles alone;
  StagedFiles& list = innermost() != nullptr ? *innermost() : alone;
  FileResult<void> saved = list.add(path, bytes, keep_as, files_read() != nullptr ? *files_read() : none);
  return saved ? alone.commit() : saved;
}

FileResult<void> save_file(const std::string& path, std::span<const std::byte> bytes) {
  return detail::save_keeping(path, bytes, {});
}

FileResult<void> save_text(const std::string& path, std::string_view text) {
  return save_file(path, std::as_bytes(std::span(text.data(), text.size())));
}

}  // namespace grafema
