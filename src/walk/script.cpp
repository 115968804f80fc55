#include <sstream>

#include "base/error.hpp"
#include "walk/world.hpp"

namespace vic::walk {

std::vector<Step> parse_script(const std::string& text, const std::string& file) {
    constexpr int kMostTicks = 60 * 60 * kTicks;
    std::vector<Step> steps;
    int all = 0;
    std::istringstream in(text);
    std::string line;
    for (int number = 1; std::getline(in, line); ++number) {
        const auto refuse = [&](const Text& what) {
            throw InputError(what, file, say("line %1", number),
                             "A line is TICKS and any of: left right up down jump run, towards DEGREES");
        };
        if (const auto hash = line.find('#'); hash != std::string::npos) line.resize(hash);
        std::istringstream words(line);
        std::string word;
        if (!(words >> word)) continue;
        Step step;
        if (word.find_first_not_of("0123456789") != std::string::npos || word.size() > 7)
            refuse(say("\"%1\" is no number of ticks", word));
        step.ticks = std::stoi(word);
        if (step.ticks > kMostTicks - all) refuse("A script is at most an hour long, 216000 ticks");
        all += step.ticks;
        while (words >> word) {
            if (word == "left")
                step.input.left = true;
            else if (word == "right")
                step.input.right = true;
            else if (word == "up")
                step.input.up = true;
            else if (word == "down")
                step.input.down = true;
            else if (word == "jump")
                step.input.jump = true;
            else if (word == "run")
                step.input.run = true;
            else if (word == "towards") {
                if (!(words >> step.input.towards) || step.input.towards < 0 || step.input.towards > 359)
                    refuse("After \"towards\" come degrees, 0 to 359");
            } else
                refuse(say("\"%1\" is no input", word));
        }
        steps.push_back(step);
    }
    return steps;
}

} // namespace vic::walk
