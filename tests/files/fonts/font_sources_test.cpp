// SPDX-License-Identifier: MIT
// Fonts found by path and by name: files, folders, archives, family files, installed families.
#include "grafema/files/font_sources.hpp"

#include <zip.h>
#include <catch2/catch.hpp>

#include <cstdlib>
#include <filesystem>

#include "support/support.hpp"

using namespace grafema;

namespace {

/// A folder with three faces of two families, a damaged file and texts; and all of that as an archive.
struct Pack {
  test::Folder folder;
  Pack() {
    std::filesystem::create_directories(folder.path("pack/ttf"));
    for (const std::string name : {"DejaVuSans.ttf", "DejaVuSans-Bold.ttf", "DejaVuSansMono.ttf"})
      std::filesystem::copy(test::dejavu_path(name), folder.path("pack/ttf/" + name));
    write("broken.ttf", "not a font");
    write("OFL.txt", "SIL Open Font License");
    write("notes.txt", "Drawn in one night.");
    write("long.txt", std::string(100000, 'x'));
    zip_t* archive = zip_open(zip().c_str(), ZIP_CREATE, nullptr);
    REQUIRE(archive != nullptr);
    for (const std::string name : {"broken.ttf", "OFL.txt", "notes.txt", "long.txt", "ttf/DejaVuSans.ttf",
                                   "ttf/DejaVuSans-Bold.ttf", "ttf/DejaVuSansMono.ttf"}) {
      add(archive, name, name);
      add(archive, "__MACOSX/" + name, "notes.txt");
    }
    REQUIRE(zip_close(archive) == 0);
    REQUIRE(save_text(family_file(),
                      R"({"format": "grafema-family", "version": 1, "families": {"Night": {"styles":
        {"Regular": {"file": "pack/ttf/DejaVuSans.ttf"}, "Loud": {"file": "pack/ttf/DejaVuSans-Bold.ttf"}}}}})")
                .has_value());
  }

  std::string path() const { return folder.path("pack"); }
  std::string zip() const { return folder.path("pack.zip"); }
  std::string family_file() const { return folder.path("night.json"); }

 private:
  void write(const std::string& name, const std::string& text) const {
    REQUIRE(save_text(path() + "/" + name, text).has_value());
  }
  void add(zip_t* archive, const std::string& name, const std::string& file) const {
    REQUIRE(zip_file_add(archive, name.c_str(),
                         zip_source_file(archive, (path() + "/" + file).c_str(), 0, -1), 0) >= 0);
  }
};

/// A variable of the environment for the length of a test.
class Environment {
 public:
  Environment(const char* name, const std::string& value) : name_(name) {
    if (const char* before = std::getenv(name)) before_ = before;
    ::setenv(name, value.c_str(), 1);
  }
  ~Environment() { before_ ? ::setenv(name_, before_->c_str(), 1) : ::unsetenv(name_); }
  Environment(const Environment&) = delete;
  Environment& operator=(const Environment&) = delete;

 private:
  const char* name_;
  std::optional<std::string> before_;
};

template <class T>
std::string complaint(const FileResult<T>& result) {
  REQUIRE_FALSE(result.has_value());
  return describe(result.error());
}

std::string first_style(const FileResult<FamilySet>& set) {
  REQUIRE(set.has_value());
  return make_stack(*set)[0]->face()->names().style;
}

}  // namespace

TEST_CASE("a folder and an archive give the same fonts and texts", "[font_sources]") {
  const Pack pack;
  const auto folder = find_fonts(pack.path()), archive = find_fonts(pack.zip());
  for (const auto* source : {&folder, &archive}) {
    REQUIRE(source->has_value());
    CHECK((*source)->several);
    CHECK((*source)->fonts.size() == 3);
    CHECK((*source)->licenses.size() == 1);
    CHECK((*source)->licenses[0].name == "OFL.txt");
    CHECK((*source)->texts_read == std::vector<std::string>{"notes.txt"});
    CHECK((*source)->texts_unread == std::vector<std::string>{"long.txt"});
    REQUIRE((*source)->passed_over.size() == 1);
    CHECK_THAT((*source)->passed_over[0].path, Catch::EndsWith("broken.ttf"));
  }
  for (std::size_t i = 0; i < 3; ++i) {
    const auto a = folder->fonts[i].data.bytes(), b = archive->fonts[i].data.bytes();
    CHECK(std::equal(a.begin(), a.end(), b.begin(), b.end()));
  }
  const auto one = find_fonts(pack.path() + "/ttf/DejaVuSans.ttf");
  REQUIRE(one.has_value());
  CHECK_FALSE(one->several);
  CHECK(one->fonts.size() == 1);
}

TEST_CASE("one call loads files, folders, archives and family files, each with a style", "[font_sources]") {
  const Pack pack;
  for (const std::string& name : {pack.path(), pack.zip()}) {
    const auto all = load_fonts(name);
    REQUIRE(all.has_value());
    CHECK(all->families.size() == 2);
    CHECK(all->families[0].members().size() == 2);
    CHECK_THAT(all->families[0].members()[0].file, Catch::StartsWith(name));
    CHECK(first_style(all) == "Book");
    CHECK(first_style(load_fonts(name + "#Bold")) == "Bold");
  }
  CHECK(first_style(load_fonts(pack.family_file())) == "Book");
  CHECK(first_style(load_fonts(pack.family_file() + "#loud")) == "Bold");
  CHECK_THAT(complaint(load_fonts(pack.family_file() + "#Lowd")),
             Catch::Contains("night.json") && Catch::Contains("did you mean 'Loud'?"));
  CHECK(first_style(load_fonts(test::dejavu_path())) == "Book");
  CHECK(first_style(load_fonts("built-in:dot")) == "Regular");
  CHECK_THAT(complaint(load_fonts("built-in:dot#Lowd")), Catch::Contains("'Lowd'"));
}

TEST_CASE("variable faces of all sources stand where they are asked to", "[font_sources]") {
  const test::Folder folder;
  const std::string file = folder.path("sans.ttf");
  std::filesystem::copy(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans_variable.ttf", file);
  for (const std::string& name : {file, folder.path()}) {
    const auto set = load_fonts(name, nullptr, {.place = {{tag("wght"), 650}}});
    REQUIRE(set.has_value());
    const auto place = set->families[0].members()[0].face->place();
    REQUIRE(place.size() == 1);
    CHECK(place[0].value == 650);
  }
}

TEST_CASE("a path with a # of its own is that path", "[font_sources]") {
  const test::Folder folder;
  const std::string file = folder.path("night #7.ttf");
  std::filesystem::copy(test::dejavu_path("DejaVuSans-Bold.ttf"), file);
  CHECK(first_style(load_fonts(file)) == "Bold");
}

TEST_CASE("calls for one kind of file say what opens the others", "[font_sources]") {
  const Pack pack;
  for (const std::string& name : {pack.path(), pack.zip(), pack.family_file()}) {
    CHECK_THAT(complaint(open_face(name)), Catch::Contains("load_fonts loads folders, archives"));
  }
  for (const std::string& name : {pack.path(), pack.zip(), test::dejavu_path()}) {
    CHECK_THAT(complaint(load_families(name)), Catch::Contains("load_fonts loads font files, folders"));
  }
  CHECK_THAT(complaint(open_face(pack.folder.path("none.ttf"))),
             Catch::EndsWith("none.ttf can't be read: No such file or directory"));
}

TEST_CASE("folders of fonts are those that the environment names", "[font_sources]") {
  const Pack pack;
  std::filesystem::create_directories(pack.folder.path("home/fonts"));
  std::filesystem::create_directories(pack.folder.path("system/fonts"));
  const Environment home("XDG_DATA_HOME", pack.folder.path("home")),
      data("XDG_DATA_DIRS", pack.folder.path("system") + ":" + pack.folder.path("none")),
      user("HOME", pack.folder.path());
  CHECK(font_folders() ==
        std::vector<std::string>{pack.folder.path("home/fonts"), pack.folder.path("system/fonts")});
  CHECK(installed_faces().empty());
  std::filesystem::copy(pack.path(), pack.folder.path("system/fonts"),
                        std::filesystem::copy_options::recursive);
  const std::vector<InstalledFace> faces = installed_faces();
  REQUIRE(faces.size() == 3);
  CHECK(faces[0].family == "DejaVu Sans");
  CHECK(faces[0].style == "Bold");
  CHECK(faces[2].family == "DejaVu Sans Mono");
}

TEST_CASE("installed families are loaded by name, in any case, with a style", "[font_sources]") {
  const Pack pack;
  std::filesystem::create_directories(pack.folder.path("system"));
  std::filesystem::rename(pack.path(), pack.folder.path("system/fonts"));
  const Environment home("XDG_DATA_HOME", pack.folder.path("none")),
      data("XDG_DATA_DIRS", pack.folder.path("system")), user("HOME", pack.folder.path());
  const auto sans = load_fonts("dejavu sans");
  CHECK(first_style(sans) == "Book");
  CHECK(sans->families[0].members().size() == 2);
  CHECK(first_style(load_fonts("DejaVu Sans#Bold")) == "Bold");
  CHECK(first_style(load_fonts("DejaVu Sans Bold")) == "Bold");
  CHECK_THAT(complaint(load_fonts("DejaVu Snas")), Catch::Contains("did you mean 'DejaVu Sans'?"));
  CHECK_THAT(complaint(load_fonts("DejaVu Sans#Blod")), Catch::Contains("did you mean 'Bold'?"));
  const auto found = find_fonts("DejaVu Sans");
  REQUIRE(found.has_value());
  CHECK(found->fonts.size() == 2);
  // A path wins over a name.
  const std::filesystem::path before = std::filesystem::current_path();
  std::filesystem::current_path(pack.folder.path());
  std::filesystem::copy(test::dejavu_path("DejaVuSans-Bold.ttf"), "DejaVu Sans");
  CHECK(first_style(load_fonts("DejaVu Sans")) == "Bold");
  std::filesystem::current_path(before);
}

TEST_CASE("installed faces are listed by the names that the opened faces have", "[font_sources]") {
  const std::vector<InstalledFace> faces = installed_faces();
  REQUIRE(faces.size() > 20);
  for (const InstalledFace& installed : faces) {
    INFO(installed.path << " " << installed.index);
    const auto face = open_face(installed.path, installed.index);
    if (!face) continue;  // the names are whole, other tables are not
    CHECK((*face)->names().family == installed.family);
    CHECK((*face)->names().style == installed.style);
  }
}

TEST_CASE("damaged fonts and archives are listed and loaded without harm", "[font_sources]") {
  const Pack pack;
  const auto cut = [&](const std::string& file, std::size_t bytes) {
    const auto data = FontData::read(file);
    REQUIRE(data.has_value());
    return std::vector<std::byte>(data->bytes().begin(),
                                  data->bytes().begin() + static_cast<std::ptrdiff_t>(bytes));
  };
  const std::string target = pack.folder.path("cut/fonts");
  std::filesystem::create_directories(target);
  for (const std::size_t bytes : {0, 4, 11, 12, 40, 500, 5000}) {
    REQUIRE(save_file(target + "/a.ttf", cut(test::dejavu_path(), bytes)).has_value());
    const std::vector<std::string> folders{target};
    CHECK(list_faces(folders).empty());
    REQUIRE(save_file(target + "/a.zip", cut(pack.zip(), bytes)).has_value());
    CHECK_FALSE(load_fonts(target + "/a.zip").has_value());
  }
  CHECK_FALSE(load_fonts(target).has_value());
  CHECK_FALSE(load_fonts("").has_value());
  CHECK_FALSE(load_fonts("#").has_value());
  CHECK_FALSE(load_fonts("no such family of faces").has_value());
}
