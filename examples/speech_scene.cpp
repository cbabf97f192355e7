// SPDX-License-Identifier: MIT
// Speech: markup, a voice for each speaker, letters that appear one by one in a box that never cuts a word.
#include <array>
#include <iostream>

#include "grafema/files/markup.hpp"
#include "grafema/text/reveal.hpp"
#include "stage.hpp"

using namespace grafema;

namespace {

struct Voice {
  const char *name, *look;
  RevealPace pace;
};
constexpr Voice kVarga{"Ilse Varga", "sign", {34, 0.14F, 0.45F, 0.3F}};
constexpr Voice kTomek{"Tomek Oyelaran", "name-tag", {22, 0.22F, 0.6F, 0.4F}};

struct Speech {
  const Voice* voice;
  const char* markup;
};
constexpr std::array<Speech, 4> kSpeeches = {
    {{&kVarga,
      "Last tram to <span class=\"stop\">Pale Orchard</span>!<wait s=\"0.4\"/> <span class=\"shout\">Mind "
      "the gap,</span> "
      "Tomek \u2014 and take your <img src=\"umbrella\"/>, it <i>never</i> stops raining over Marrow Hill."},
     {&kTomek,
      "I was <s>asleep</s> <u>reading the map</u>. The <b>N1</b> is late<sup>1</sup> again, and the lantern "
      "at the ninth stop has been out since Tuesday."},
     {&kVarga,
      "Then count the canals: <b>three</b> bridges, <b>two</b> locks, <small>and one very patient "
      "heron</small>."},
     {&kTomek, "<span class=\"shout\">Wait!</span><wait s=\"0.6\"/> That heron took my ticket."}}};

constexpr Rect kBox{150, 520, 1130, 740};
constexpr float kMargin = 28;

class SpeechScene final : public Scene {
 public:
  explicit SpeechScene(const DemoReader& read)
      : context_(demo_context(read)),
        scene_(*context_),
        title_(scene_.add("Ninth Lantern, 23:40")),
        name_(scene_.add()),
        text_(scene_.add()) {
    TextStyle style{.size = 34, .line_spacing = 1.15F};
    style.wrap = kBox.width() - 2 * kMargin, style.box_height = kBox.height() - 2 * kMargin;
    style.overflow = Overflow::smaller;  // the longest translation shrinks rather than loses a word
    style.language = "en";
    if (const auto styled = text_.set_style(style); !styled) std::cerr << describe(styled.error()) << '\n';
    name_.set_size(26), title_.set_size(30);
    text_.move_to({kBox.left + kMargin, kBox.top + kMargin});
    name_.move_to({kBox.left + kMargin, kBox.top - 44});
    title_.set_placement(pinned({0.5F, 0}, {0, 40}));
    title_.set_look(look("clock"));
    begin(0);
  }

  void step(double seconds) override {
    text_.set_revealed(reveal_.advance(seconds - now_, [this](std::size_t, std::uint32_t) { ++clicks_; }));
    now_ = seconds;
    constexpr double kRest = 1.6;  // before the next speaks
    if (reveal_.done() && finished_ < 0) finished_ = seconds;
    if (finished_ >= 0 && seconds - finished_ > kRest && speech_ + 1 < kSpeeches.size()) begin(speech_ + 1);
  }

  void draw(Stage& stage) override {
    stage.fill({0, 0, 1280, 800}, {0.05F, 0.07F, 0.15F, 1});
    draw_houses(stage);
    stage.fill({0, 430, 1280, 800}, {0.035F, 0.05F, 0.11F, 1});
    stage.fill(kBox.grown(3), {0.62F, 0.48F, 0.26F, 1});
    stage.fill(kBox, {0.09F, 0.11F, 0.23F, 1});
    stage.fill({kBox.left - 3, kBox.top - 52, kBox.left + 330, kBox.top}, {0.62F, 0.48F, 0.26F, 1});
    stage.fill({kBox.left, kBox.top - 49, kBox.left + 327, kBox.top}, {0.09F, 0.11F, 0.23F, 1});
    stage.words(scene_, now_);
    if (finished_ >= 0)
      stage.fill({kBox.right - 34, kBox.bottom - 30, kBox.right - 20, kBox.bottom - 16},
                 {0.95F, 0.7F, 0.3F, 1});
  }

  std::string report() const override { return std::to_string(clicks_) + " letters clicked"; }

 private:
  /// Across the canal, some windows lit.
  static void draw_houses(Stage& stage) {
    constexpr std::array<float, 7> kHeights = {170, 250, 140, 210, 280, 160, 220};
    for (std::size_t h = 0; h < kHeights.size(); ++h) {
      const float left = 20 + 180 * static_cast<float>(h), top = 430 - kHeights[h];
      stage.fill({left, top, left + 160, 430}, {0.075F, 0.09F, 0.17F, 1});
      for (std::size_t w = 0; 70 * static_cast<float>(w / 3) + 70 < kHeights[h]; ++w) {
        const float x = left + 18 + 46 * static_cast<float>(w % 3),
                    y = top + 24 + 70 * static_cast<float>(w / 3);
        const bool lit = (w * 7 + h * 5) % 4 == 0;
        stage.fill({x, y, x + 28, y + 40}, lit ? Color{0.62F, 0.46F, 0.2F, 1} : Color{0.1F, 0.12F, 0.21F, 1});
      }
    }
  }

  LookId look(std::string_view name) const { return context_->looks().read(name).value_or(LookId{}); }

  void begin(std::size_t speech) {
    speech_ = speech, finished_ = -1;
    const Voice& voice = *kSpeeches[speech].voice;
    const RichText text =
        markup_or_plain(kSpeeches[speech].markup, {&context_->styles(), &context_->icons()});
    name_.set_text(voice.name);
    name_.set_look(look(voice.look)), text_.set_look(look("plain"));
    text_.set_rich(text);
    text_.set_revealed(0);
    reveal_.start(text, text_.clusters(), voice.pace, "en");
  }

  std::unique_ptr<TextContext> context_;
  TextScene scene_;
  Label title_, name_, text_;
  Reveal reveal_;
  std::size_t speech_ = 0, clicks_ = 0;
  double now_ = 0, finished_ = -1;
};

}  // namespace

std::unique_ptr<Scene> make_speech(const DemoReader& read) { return std::make_unique<SpeechScene>(read); }
