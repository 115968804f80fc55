// What a .glb is put together of: lists of things that name one another by their numbers, and the numbers of meshes and
// pictures behind them.
#pragma once

#include <array>
#include <bit>
#include <cstdint>
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "base/image.hpp"
#include "store/format.hpp"

namespace vic::mass {

class GlbLists {
  protected:
    using Json = store::Json;
    static constexpr int kRepeat = 10497, kClamp = 33071; // how pictures go on beyond their edges

    // Its number.
    static int add(Json& list, Json what) {
        list.push_back(std::move(what));
        return static_cast<int>(list.size()) - 1;
    }
    int vectors(const std::vector<std::array<float, 2>>& all);
    // `bounds`: with the least and the most of them, as places need; there must be one.
    int vectors(const std::vector<std::array<float, 3>>& all, bool bounds = false);
    int indices(const std::vector<std::uint32_t>& all);
    int texture(const Image& picture, int wrap);
    // In a picture whose sides are powers of two, as some engines want them; `part`: how much of that it takes.
    int padded_texture(const Image& picture, std::array<float, 2>& part);
    // The file: `head` with the lists, and the numbers.
    [[nodiscard]] std::string packed(Json head) const;

    Json nodes_ = Json::array(), meshes_ = Json::array(), cameras_ = Json::array(), finishes_ = Json::array();

  private:
    int view(const void* data, std::size_t size, int target = 0);
    template <std::size_t N>
    int accessor(const std::vector<std::array<float, N>>& all, bool bounds);

    std::string bytes_;
    Json accessors_ = Json::array(), views_ = Json::array(), textures_ = Json::array(), images_ = Json::array(),
         samplers_ = Json::array();
    std::map<int, int> sampler_numbers_; // by how they go on beyond the picture
};

} // namespace vic::mass
