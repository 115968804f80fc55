// What is kept on the graphics card, each with its end. Only for src/render; a context must be current in all of it.
#pragma once

#include <epoxy/gl.h>

#include <cstddef>
#include <map>
#include <string>
#include <utility>

#include "base/image.hpp"
#include "render/camera.hpp"

namespace vic::render {

inline constexpr GLsizei kShadowSide = 2048; // pixels
inline const void* offset(std::size_t bytes) { return reinterpret_cast<const void*>(bytes); }

// A number that OpenGL gave, and gives back.
template <void (*End)(GLuint)>
class Owned {
  public:
    Owned() = default;
    ~Owned() { reset(); }
    Owned(Owned&& other) noexcept : id_(std::exchange(other.id_, 0)) {}
    Owned& operator=(Owned&& other) noexcept {
        std::swap(id_, other.id_);
        return *this;
    }
    void reset(GLuint id = 0) {
        if (id_ != 0) End(id_);
        id_ = id;
    }
    [[nodiscard]] GLuint id() const { return id_; }
    explicit operator bool() const { return id_ != 0; }

  private:
    GLuint id_ = 0;
};
inline void end_buffer(GLuint id) { glDeleteBuffers(1, &id); }
inline void end_vertices(GLuint id) { glDeleteVertexArrays(1, &id); }
inline void end_texture(GLuint id) { glDeleteTextures(1, &id); }
inline void end_program(GLuint id) { glDeleteProgram(id); }
inline void end_frame(GLuint id) { glDeleteFramebuffers(1, &id); }
inline void end_store(GLuint id) { glDeleteRenderbuffers(1, &id); }

class Buffer {
  public:
    void bind(GLenum target = GL_ARRAY_BUFFER) {
        GLuint id = id_.id();
        if (id == 0) {
            glGenBuffers(1, &id);
            id_.reset(id);
        }
        glBindBuffer(target, id);
    }
    void put(const void* data, std::size_t bytes, GLenum target = GL_ARRAY_BUFFER) {
        bind(target);
        glBufferData(target, static_cast<GLsizeiptr>(bytes), data, GL_DYNAMIC_DRAW);
    }

  private:
    Owned<end_buffer> id_;
};

class Vertices {
  public:
    void bind() {
        GLuint id = id_.id();
        if (id == 0) {
            glGenVertexArrays(1, &id);
            id_.reset(id);
        }
        glBindVertexArray(id);
    }
    static void none() { glBindVertexArray(0); }

  private:
    Owned<end_vertices> id_;
};

// Crisp, and repeated beyond its rim.
class Texture {
  public:
    Texture() = default;
    explicit Texture(const Image& image, bool repeats = true);
    void bind(int unit) const {
        glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
        glBindTexture(GL_TEXTURE_2D, id_.id());
    }
    explicit operator bool() const { return static_cast<bool>(id_); }

  private:
    Owned<end_texture> id_;
};

class Program {
  public:
    // What is wrong with it, in the words of the driver; empty where all is well.
    std::string make(const char* vertex, const char* fragment);
    void use() const { glUseProgram(id_.id()); }
    void set(const char* name, int v) { glUniform1i(at(name), v); }
    void set(const char* name, bool v) { glUniform1i(at(name), v ? 1 : 0); }
    void set(const char* name, float v) { glUniform1f(at(name), v); }
    void set(const char* name, const Vec3& v) { glUniform3f(at(name), v[0], v[1], v[2]); }
    void set(const char* name, const Vec4& v) { glUniform4f(at(name), v[0], v[1], v[2], v[3]); }
    void set(const char* name, const Matrix& v) { glUniformMatrix4fv(at(name), 1, GL_FALSE, v.data()); }

  private:
    GLint at(const char* name);
    Owned<end_program> id_;
    std::map<std::string, GLint> places_;
};

// What is drawn into, with a depth.
class Frame {
  public:
    void make(Size size, int samples); // nothing where it is that already
    void bind() const { glBindFramebuffer(GL_FRAMEBUFFER, frame_.id()); }
    [[nodiscard]] GLuint id() const { return frame_.id(); }
    [[nodiscard]] Size size() const { return size_; }

  private:
    Owned<end_frame> frame_;
    Owned<end_store> colour_, depth_;
    Size size_{0, 0};
};

} // namespace vic::render
