// The value of a field, of whatever type its field takes. Copies share it.
#pragma once

#include <memory>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <utility>

namespace kervo {

class FieldValue {
 public:
  FieldValue() = default;
  template <class T>
  requires(!std::is_same_v<std::remove_cvref_t<T>, FieldValue> && !std::is_convertible_v<T, const char*>)
      FieldValue(T&& value)
      : held_(std::make_shared<HeldAs<std::remove_cvref_t<T>>>(std::forward<T>(value))) {}
  FieldValue(const char* text) : FieldValue(std::string(text)) {}

  template <class T>
  const T* asIf() const {
    const auto* held = dynamic_cast<const HeldAs<T>*>(held_.get());
    return held ? &held->value : nullptr;
  }
  /// @throws std::logic_error if it is of another type.
  template <class T>
  const T& as() const {
    if (const T* value = asIf<T>()) return *value;
    throw std::logic_error("the value of a field is of another type");
  }
  bool operator==(const FieldValue& other) const {
    return held_ == other.held_ || (held_ && other.held_ && held_->same(*other.held_));
  }

 private:
  struct Held {
    Held() = default;
    Held(const Held&) = delete;
    Held& operator=(const Held&) = delete;
    virtual ~Held() = default;
    virtual bool same(const Held& other) const = 0;
  };
  template <class T>
  struct HeldAs final : Held {
    explicit HeldAs(T from) : value(std::move(from)) {}
    bool same(const Held& other) const override {
      const auto* alike = dynamic_cast<const HeldAs*>(&other);
      return alike && alike->value == value;
    }
    const T value;
  };
  std::shared_ptr<const Held> held_;
};

}  // namespace kervo
