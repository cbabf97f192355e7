// SPDX-License-Identifier: MIT
// Outputs onto every kind of place, several at once, and a process that is killed while it writes.
#include "grafema/files/output_files.hpp"

#include <fcntl.h>
#include <signal.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/sysmacros.h>
#include <sys/wait.h>
#include <unistd.h>

#include <catch2/catch.hpp>
#include <chrono>
#include <filesystem>
#include <random>
#include <set>
#include <thread>

#include "grafema/atlas/bake.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "support/support.hpp"

using namespace grafema;
namespace fs = std::filesystem;

namespace {

std::string outputs_text(const std::string& path) { return load_text(path).value_or("(nothing)"); }

/// A number that no process has any longer.
pid_t ended_process() {
  const pid_t child = ::fork();
  if (child == 0) ::_exit(0);
  ::waitpid(child, nullptr, 0);
  return child;
}

Atlas outputs_atlas(const char* characters, float size) {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = *read_character_set(characters);
  recipe.size = size;
  recipe.kind = PictureKind::coverage;
  recipe.max_page = {64, 64};
  auto made = bake(recipe);
  REQUIRE(made.has_value());
  return *std::move(made);
}

}  // namespace

TEST_CASE("a replaced file keeps its permissions, and links to it stay links", "[files][outputs]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("sign.txt"), "old").has_value());
  fs::permissions(folder.path("sign.txt"), fs::perms::owner_read | fs::perms::owner_write);
  fs::create_symlink("sign.txt", folder.path("link.txt"));
  fs::create_symlink("later.txt", folder.path("to_nothing.txt"));
  REQUIRE(save_text(folder.path("link.txt"), "new").has_value());
  CHECK(fs::is_symlink(folder.path("link.txt")));
  CHECK(outputs_text(folder.path("sign.txt")) == "new");
  CHECK(fs::status(folder.path("sign.txt")).permissions() ==
        (fs::perms::owner_read | fs::perms::owner_write));
  REQUIRE(save_text(folder.path("to_nothing.txt"), "now").has_value());
  CHECK(fs::is_symlink(folder.path("to_nothing.txt")));
  CHECK(outputs_text(folder.path("later.txt")) == "now");
  CHECK(folder.file_count() == 4);
}

TEST_CASE("devices and pipes are written to and stay what they are", "[files][outputs]") {
  const test::Folder folder;
  const std::string pipe = folder.path("pipe"), null = folder.path("null"), full = folder.path("full");
  REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
  const FileResult<void> unread = save_text(pipe, "words");
  REQUIRE_FALSE(unread.has_value());
  CHECK_THAT(describe(unread.error()), Catch::Contains("somebody reads"));
  const int reader = ::open(pipe.c_str(), O_RDONLY | O_NONBLOCK);
  REQUIRE(save_text(pipe, "words").has_value());
  char got[8] = {};
  CHECK(::read(reader, got, sizeof got) == 5);
  CHECK(std::string(got) == "words");
  ::close(reader);
  CHECK(fs::is_fifo(pipe));
  // Devices of our own: those of the machine are not for tests.
  if (::mknod(null.c_str(), S_IFCHR | 0600, ::makedev(1, 3)) != 0) return;
  REQUIRE(::mknod(full.c_str(), S_IFCHR | 0600, ::makedev(1, 7)) == 0);
  const int opened = ::open(null.c_str(), O_WRONLY);
  if (opened < 0) return;  // a file system without devices
  ::close(opened);
  CHECK(save_text(null, "words").has_value());
  CHECK(fs::is_character_file(null));
  const FileResult<void> refused = save_text(full, "words");
  REQUIRE_FALSE(refused.has_value());
  CHECK(refused.error().error.kind == ErrorKind::file_unwritable);
  CHECK_THAT(describe(refused.error()), Catch::Contains("space"));
  CHECK(fs::is_character_file(full));
  REQUIRE(::mknod(folder.path("disk").c_str(), S_IFBLK | 0600, ::makedev(7, 0)) == 0);
  CHECK_FALSE(save_text(folder.path("disk"), "words").has_value());
  CHECK(fs::is_block_file(folder.path("disk")));
}

TEST_CASE("several files take their places together, or none does", "[files][outputs]") {
  const test::Folder folder;
  const std::string one = folder.path("one.txt"), two = folder.path("two.txt");
  REQUIRE(save_text(one, "old").has_value());
  {
    OutputFiles outputs;
    REQUIRE(save_text(one, "new").has_value());
    REQUIRE(save_text(two, "new").has_value());
    CHECK(outputs_text(one) == "old");
    CHECK_FALSE(fs::exists(two));
  }  // no commit
  CHECK(outputs_text(one) == "old");
  CHECK(folder.file_count() == 1);
  {
    OutputFiles outputs;
    REQUIRE(save_text(two, "new").has_value());
    {
      OutputFiles inner;
      REQUIRE(save_text(folder.path("three.txt"), "new").has_value());
      REQUIRE(inner.commit().has_value());
    }
    CHECK_FALSE(fs::exists(folder.path("three.txt")));  // it waits with the outer ones
    REQUIRE(outputs.commit().has_value());
  }
  CHECK(outputs_text(two) == "new");
  CHECK(outputs_text(folder.path("three.txt")) == "new");
  CHECK(folder.file_count() == 3);
  OutputFiles outputs;
  REQUIRE(save_text(folder.path("four.txt"), "new").has_value());
  REQUIRE(save_text(folder.path("five.txt"), "new").has_value());
  fs::create_directory(folder.path("five.txt"));  // since then something has come to stand there
  fs::create_directory(folder.path("five.txt/full"));
  CHECK_FALSE(outputs.commit().has_value());
  CHECK_FALSE(fs::exists(folder.path("four.txt")));
}

TEST_CASE("a file that could not be written whole takes no place, and may be saved again",
          "[files][outputs]") {
  const test::Folder folder;
  const std::string path = folder.path("one.txt"), many(1 << 20, 'x');
  REQUIRE(save_text(path, "old").has_value());
  OutputFiles outputs;
  REQUIRE(save_text(folder.path("two.txt"), "new").has_value());
  // As a full disk would: the process may write no more than a few bytes a file.
  rlimit before = {};
  REQUIRE(::getrlimit(RLIMIT_FSIZE, &before) == 0);
  const auto handler = ::signal(SIGXFSZ, SIG_IGN);
  const rlimit few{1000, before.rlim_max};
  REQUIRE(::setrlimit(RLIMIT_FSIZE, &few) == 0);
  const FileResult<void> refused = save_text(path, many);
  REQUIRE(::setrlimit(RLIMIT_FSIZE, &before) == 0);
  ::signal(SIGXFSZ, handler);
  REQUIRE_FALSE(refused.has_value());
  REQUIRE(outputs.commit().has_value());
  const ReplaceableReads looked_at;
  CHECK(outputs_text(path) == "old");
  CHECK(outputs_text(folder.path("two.txt")) == "new");
  CHECK(folder.file_count() == 2);
  REQUIRE(save_text(path, "again").has_value());
  REQUIRE(outputs.commit().has_value());
  CHECK(outputs_text(path) == "again");
}

TEST_CASE("what was read is not replaced, by whatever name, and no file is written twice",
          "[files][outputs]") {
  const test::Folder folder;
  const std::string font = folder.path("font.ttf"), other = folder.path("other.txt");
  REQUIRE(save_file(font, test::dot_bytes()).has_value());
  fs::create_hard_link(font, folder.path("same.ttf"));
  fs::create_symlink("font.ttf", folder.path("link.ttf"));
  auto outputs = std::make_unique<OutputFiles>();
  REQUIRE(open_face(font).has_value());
  for (const char* name : {"font.ttf", "same.ttf", "link.ttf", "./font.ttf"}) {
    INFO(name);
    const FileResult<void> refused = save_text(folder.path(name), "new");
    REQUIRE_FALSE(refused.has_value());
    CHECK(refused.error().error.kind == ErrorKind::file_unwritable);
  }
  REQUIRE(save_text(other, "one").has_value());
  CHECK_FALSE(save_text(other, "two").has_value());
  CHECK_FALSE(save_text(folder.path("./other.txt"), "two").has_value());
  {
    const ReplaceableReads changed;
    REQUIRE(load_text(folder.path("same.ttf"), 1 << 20).has_value());
  }
  REQUIRE(outputs->commit().has_value());
  outputs = nullptr;
  CHECK(outputs_text(other) == "one");
  CHECK(open_face(font).has_value());
  CHECK(save_text(font, "new").has_value());  // outside nothing is remembered
}

TEST_CASE("what a killed process left beside its place is removed by the next one", "[files][outputs]") {
  const test::Folder folder;
  const std::string gone = std::to_string(ended_process()), here = std::to_string(::getpid());
  for (const std::string& name :
       {"a.txt.part-" + gone + "-0", "a.txt.part-" + gone + "-17", "a.txt.part-" + here + "-999999",
        "b.txt.part-" + gone + "-0", std::string("a.txt.part-none"), std::string("a.txt.part")}) {
    REQUIRE(save_text(folder.path(name), "half").has_value());
  }
  REQUIRE(save_text(folder.path("a.txt"), "whole").has_value());
  CHECK(folder.file_count() == 5);  // both parts of the ended process for this very file are gone
  CHECK_FALSE(fs::exists(folder.path("a.txt.part-" + gone + "-17")));
  CHECK(fs::exists(folder.path("b.txt.part-" + gone + "-0")));
}

TEST_CASE("an atlas is the old or the new one whenever its writer is killed", "[files][outputs][atlas]") {
  const test::Folder folder;
  const std::string prefix = folder.path("signs");
  const Atlas old = outputs_atlas("ascii", 24), made = outputs_atlas("ascii", 25);
  REQUIRE(old.pages.size() > 1);
  REQUIRE(save_atlas(prefix, old).has_value());
  std::mt19937 random(Catch::rngSeed());
  int killed = 0;
  for (int round = 0; round < 40; ++round) {
    const Atlas& next = round % 2 == 0 ? made : old;
    const pid_t child = ::fork();
    if (child == 0) ::_exit(save_atlas(prefix, next).has_value() ? 0 : 1);
    std::this_thread::sleep_for(std::chrono::microseconds(random() % 6000));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    killed += WIFSIGNALED(status) ? 1 : 0;
    const auto now = load_atlas(prefix + ".json");
    INFO("round " << round << (now ? "" : ": " + describe(now.error())));
    REQUIRE(now.has_value());
    const Atlas& same = now->strikes[0].size == old.strikes[0].size ? old : made;
    REQUIRE(now->pages.size() == same.pages.size());
    for (std::size_t i = 0; i < now->pages.size(); ++i)
      CHECK(pixel_hash(now->pages[i].image) == pixel_hash(same.pages[i].image));
  }
  CHECK(killed > 0);
  REQUIRE(save_atlas(prefix, old).has_value());
  std::set<std::string> names;
  for (const auto& entry : fs::directory_iterator(folder.path()))
    names.insert(entry.path().filename().string());
  std::erase_if(names,
                [](const std::string& name) { return name.ends_with(".png") || name.ends_with(".json"); });
  CHECK(names.empty());
  CHECK(load_atlas(prefix + ".json").has_value());
}
