// SPDX-License-Identifier: MIT
// A departure board of messages: values change every second, the language every four.
#include <array>
#include <cmath>
#include <cstdio>
#include <iostream>
#include <vector>

#include "grafema/files/catalog_file.hpp"
#include "stage.hpp"

using namespace grafema;

namespace {

constexpr std::array<const char*, 8> kLanguages = {"en", "de", "el", "uk", "ar", "he", "th", "ja"};
constexpr double kEvery = 4;             // seconds a language
constexpr double kEvening = 1790977440;  // 2026-10-02 21:44 UTC
struct Departure {
  const char *line, *stop;
  int late;
};
constexpr std::array<Departure, 6> kDepartures = {{{"4", "Foxglove Cross", 0},
                                                   {"7", "Saltglass Quay", 1},
                                                   {"12", "Marrow Hill", 2},
                                                   {"N1", "Hemp & Pitch Yard", 5},
                                                   {"7", "\u00D6rnhild Steps", 11},
                                                   {"4", "Caf\u00E9 Orv\u00E9lie", 21}}};

class TickerScene final : public Scene {
 public:
  explicit TickerScene(const DemoReader& read) : context_(demo_context(read)), scene_(*context_) {
    MessageBook& book = context_->messages();
    for (const char* language : kLanguages) {
      const bool po = std::string(language) == "th";
      const std::string text = read(std::string("messages/") + language + (po ? ".po" : ".json"));
      auto catalog = po ? read_po_catalog(text, language) : read_json_catalog(text, language);
      if (!catalog) std::cerr << describe(catalog.error()) << '\n';
      if (catalog) book.add(*std::move(catalog));
    }
    book.set_time_zone("Europe/Lisbon");
    TextStyle row{.size = 34};
    row.wrap = 1120, row.overflow = Overflow::tighten;
    float y = 190;
    for (const Departure& departure : kDepartures) {
      Label label = add("board.late", row, {80, y}, "clock");
      label.set_value("line", departure.line);
      label.set_value("stop", departure.stop);
      departures_.push_back(label);
      y += 84;
    }
    TextStyle side{.size = 44};
    side.wrap = 1120, side.align = TextAlign::right;
    Label date = add("clock.date", side, {80, 46}, "sign");
    date.set_value("now", MessageValue::clock());
    TextStyle small{.size = 26};
    small.wrap = 1120;
    Label price = add("ticket.price", small, {80, 716}, "name-tag");
    price.set_value("price", 2.4), price.set_value("stops", 5);
    language_ = scene_.add();
    language_.set_size(44), language_.move_to({80, 46});
    language_.set_look(context_->looks().read("clock").value_or(LookId{}));
  }

  void step(double seconds) override {
    MessageBook& book = context_->messages();
    const char* language = kLanguages[static_cast<std::size_t>(seconds / kEvery) % kLanguages.size()];
    book.set_language(language);
    book.set_clock(kEvening + seconds);
    language_.set_text(language);
    now_ = seconds;
    for (std::size_t i = 0; i < kDepartures.size(); ++i) {
      departures_[i].set_value("minutes", kDepartures[i].late + static_cast<int>(seconds) % 3);
    }
  }

  void draw(Stage& stage) override {
    stage.fill({0, 0, 1280, 800}, {0.04F, 0.04F, 0.035F, 1});
    stage.fill({60, 130, 1220, 133}, {0.5F, 0.36F, 0.12F, 1});
    for (std::size_t i = 0; i < kDepartures.size(); ++i) {
      const float y = 172 + 84 * static_cast<float>(i);
      stage.fill({60, y, 1220, y + 70}, {0.075F, 0.07F, 0.055F, 1});
    }
    stage.words(scene_, now_);
  }

  std::string report() const override { return std::string(departures_[0].text()); }

 private:
  Label add(const char* message, const TextStyle& style, PixelPoint at, const char* look) {
    Label label = scene_.add();
    if (!label.set_style(style)) std::fprintf(stderr, "%s was refused\n", message);
    label.move_to(at);
    label.set_message(message);
    label.set_look(context_->looks().read(look).value_or(LookId{}));
    return label;
  }

  std::unique_ptr<TextContext> context_;
  TextScene scene_;
  std::vector<Label> departures_;
  Label language_;
  double now_ = 0;
};

}  // namespace

std::unique_ptr<Scene> make_ticker(const DemoReader& read) { return std::make_unique<TickerScene>(read); }
