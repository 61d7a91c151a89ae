#include "base/expression.h"

#include <muParserBase.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <deque>
#include <numbers>
#include <optional>
#include <span>

#include "base/error.h"
#include "base/identifier.h"
#include "base/names.h"
#include "base/say.h"

namespace kervo {

namespace {

enum class Operation { Number, Name, Unit, Add, Subtract, Multiply, Divide, Power, Negate, Call };

/// One node of a read expression. Arguments come before the nodes that use them.
struct Node {
  Operation operation = Operation::Number;
  double number = 0;       // Number: the value; Unit: the factor
  std::size_t symbol = 0;  // Name: index into names; Call: index into functions; Unit: index into units
  std::vector<std::size_t> arguments;
};

struct Function {
  const char* name;
  int argumentCount;  // -1: one or more
  Quantity (*apply)(std::span<const Quantity>);
};

Error dimensionError(const std::string& happened) {
  return Error(happened, "", say("Check the units on both sides"));
}

void requireSame(const Quantity& a, const Quantity& b, const char* verb) {
  if (a.dimension != b.dimension)
    throw dimensionError(say("cannot %1 %2 and %3", say(verb), a.dimension.name(), b.dimension.name()));
}

void require(const Quantity& a, Dimensionality wanted, const char* function, const char* help) {
  if (a.dimension != wanted)
    throw Error(say("%1 needs %2, not %3", say(function), wanted.name(), a.dimension.name()), "", say(help));
}

template <double (*F)(double)>
Quantity ofAngle(std::span<const Quantity> a) {
  require(a[0], angleDimension, "a trigonometric function", "Write the unit, e.g. 30 deg");
  return {F(a[0].value), plainNumber};
}

template <double (*F)(double)>
Quantity toAngle(std::span<const Quantity> a) {
  require(a[0], plainNumber, "an inverse trigonometric function", "Divide by a length first");
  const double angle = F(a[0].value);
  if (std::isnan(angle))
    throw Error(say("no angle has the sine or cosine %1", formatNumber(a[0].value)), "", say("Use -1 to 1"));
  return {angle, angleDimension};
}

Quantity arcTangent2(std::span<const Quantity> a) {
  requireSame(a[0], a[1], later("take atan2 of"));
  return {std::atan2(a[0].value, a[1].value), angleDimension};
}

Quantity squareRoot(std::span<const Quantity> a) {
  if (a[0].value < 0) throw Error(say("the square root of a negative value (%1)", formatNumber(a[0].value)));
  const auto [length, angle] = a[0].dimension;
  if (length % 2 != 0 || angle % 2 != 0)
    throw dimensionError(say("the square root of %1 measures nothing that can be built", a[0].dimension.name()));
  return {std::sqrt(a[0].value), {length / 2, angle / 2}};
}

Quantity absolute(std::span<const Quantity> a) {
  return {std::abs(a[0].value), a[0].dimension};
}

template <double (*F)(double)>
Quantity whole(std::span<const Quantity> a) {
  require(a[0], plainNumber, "rounding to a whole number", "Divide by a unit first, e.g. round(width / 1 mm) * 1 mm");
  return {F(a[0].value), plainNumber};
}

template <bool Largest>
Quantity extreme(std::span<const Quantity> a) {
  Quantity result = a[0];
  for (const Quantity& other : a.subspan(1)) {
    requireSame(result, other, "compare");
    result.value = Largest ? std::max(result.value, other.value) : std::min(result.value, other.value);
  }
  return result;
}

constexpr Function functions[] = {
    {"sin", 1, ofAngle<std::sin>},   {"cos", 1, ofAngle<std::cos>},   {"tan", 1, ofAngle<std::tan>},
    {"asin", 1, toAngle<std::asin>}, {"acos", 1, toAngle<std::acos>}, {"atan", 1, toAngle<std::atan>},
    {"atan2", 2, arcTangent2},       {"sqrt", 1, squareRoot},         {"abs", 1, absolute},
    {"round", 1, whole<std::round>}, {"floor", 1, whole<std::floor>}, {"ceil", 1, whole<std::ceil>},
    {"min", -1, extreme<false>},     {"max", -1, extreme<true>}};

constexpr char piName[] = "pi";

/// What muParser fills while it runs over a text once. Its numbers are indices of nodes here.
struct Reader {
  std::vector<Node> nodes;
  std::vector<std::string> names;
  std::deque<double> variables;  // their addresses are handed to muParser

  double push(Node node) {
    nodes.push_back(std::move(node));
    return static_cast<double>(nodes.size() - 1);
  }
};

thread_local Reader* reader = nullptr;

std::size_t index(double handle) {
  return static_cast<std::size_t>(handle);
}

template <Operation O>
double binary(double a, double b) {
  return reader->push({O, 0, 0, {index(a), index(b)}});
}

double negate(double a) {
  return reader->push({Operation::Negate, 0, 0, {index(a)}});
}

double same(double a) {
  return a;
}

template <std::size_t U>
double unit(double a) {
  return reader->push({Operation::Unit, (unitsBegin() + U)->factor, U, {index(a)}});
}

template <std::size_t F>
double call(const double* handles, int count) {
  Node node{Operation::Call, 0, F, {}};
  for (int i = 0; i < count; ++i) node.arguments.push_back(index(handles[i]));
  return reader->push(std::move(node));
}

/// The parser knows signs and quotes of its own, which the manual does not: nothing else gets to it.
void requireKnownCharacters(const std::string& text) {
  static const std::string known = nameCharacters() + "+-*/^(),. \t\r\n";
  const std::size_t at = text.find_first_not_of(known);
  if (at != std::string::npos) {
    char shown[8];
    const auto c = static_cast<unsigned char>(text[at]);
    std::snprintf(shown, sizeof shown, c > 0x20 && c < 0x7F ? "\"%c\"" : "0x%02X", c);
    throw Error(say("\"%1\" is followed by the character %2, which means nothing here", text.substr(0, at), shown), "",
                say("Use numbers, names, units, + - * / ^, brackets and functions"));
  }
  if (!isUtf8(text)) throw Error(say("the expression holds bytes that are not text (UTF-8)"), "", say("Type it again"));
}

int readNumber(const char* text, int* position, double* value) {
  if (!(*text >= '0' && *text <= '9') && *text != '.') return 0;
  // Only digits, point and exponent: no hexadecimal, no "inf".
  const char* end = text;
  bool digits = false;
  while (*end >= '0' && *end <= '9') ++end, digits = true;
  if (*end == '.') ++end;
  while (*end >= '0' && *end <= '9') ++end, digits = true;
  if (!digits) return 0;
  if (*end == 'e' || *end == 'E') {
    const char* exponent = end + 1;
    if (*exponent == '+' || *exponent == '-') ++exponent;
    if (*exponent >= '0' && *exponent <= '9') {
      while (*exponent >= '0' && *exponent <= '9') ++exponent;
      end = exponent;
    }
  }
  const double number = std::strtod(("0" + std::string(text, end)).c_str(), nullptr);
  if (!std::isfinite(number)) throw std::out_of_range("number");
  *value = reader->push({Operation::Number, number, 0, {}});
  *position += static_cast<int>(end - text);
  return 1;
}

double* addVariable(const char* name, void*) {
  reader->names.push_back(withoutMarks(name));
  Node node{Operation::Name, 0, reader->names.size() - 1, {}};
  reader->variables.push_back(reader->push(std::move(node)));
  return &reader->variables.back();
}

class Grammar : public mu::ParserBase {
 public:
  Grammar() {
    AddValIdent(readNumber);
    InitCharSets();  // NOLINT(clang-analyzer-optin.cplusplus.VirtualCall): that of the base is meant
    EnableBuiltInOprt(false);
    EnableOptimizer(false);
    SetVarFactory(addVariable, nullptr);
    DefineOprt("+", binary<Operation::Add>, mu::prADD_SUB, mu::oaLEFT, false);
    DefineOprt("-", binary<Operation::Subtract>, mu::prADD_SUB, mu::oaLEFT, false);
    DefineOprt("*", binary<Operation::Multiply>, mu::prMUL_DIV, mu::oaLEFT, false);
    DefineOprt("/", binary<Operation::Divide>, mu::prMUL_DIV, mu::oaLEFT, false);
    DefineOprt("^", binary<Operation::Power>, mu::prPOW, mu::oaRIGHT, false);
    DefineInfixOprt("-", negate, mu::prINFIX, false);
    DefineInfixOprt("+", same, mu::prINFIX, false);
    defineUnits(std::make_index_sequence<7>());
    defineFunctions(std::make_index_sequence<std::size(functions)>());
  }

  void InitCharSets() override {
    DefineNameChars((nameCharacters() + marksInNames()).c_str());
    DefineOprtChars("+-*/^abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ");
    DefineInfixOprtChars("+-");
  }
  void InitFun() override {}
  void InitConst() override {}
  void InitOprt() override {}

 private:
  template <std::size_t... U>
  void defineUnits(std::index_sequence<U...>) {
    (DefinePostfixOprt(std::string((unitsBegin() + U)->name), unit<U>, false), ...);
  }
  template <std::size_t... F>
  void defineFunctions(std::index_sequence<F...>) {
    (DefineFun(functions[F].name, static_cast<mu::multfun_type>(call<F>), false), ...);
  }
};

Error readError(const std::string& text, const mu::ParserError& error) {
  const std::string at = std::to_string(error.GetPos() + 1);
  switch (error.GetCode()) {
    case mu::ecUNEXPECTED_EOF:
      return Error(say("\"%1\" ends too early", text), "", say("Add the missing value"));
    case mu::ecMISSING_PARENS:
      return Error(say("\"%1\" has a bracket that is not closed", text), "", say("Add )"));
    case mu::ecUNEXPECTED_PARENS:
      return Error(say("\"%1\" has a bracket too many at character %2", text, at), "", say("Remove )"));
    case mu::ecTOO_MANY_PARAMS:
      return Error(say("\"%1\" gives a function too many values at character %2", text, at));
    case mu::ecTOO_FEW_PARAMS:
      return Error(say("\"%1\" gives a function too few values at character %2", text, at));
    default:
      return Error(
          say("\"%1\" cannot be read at character %2", text, at), "",
          say("Write numbers with a point, units after them (mm, cm, m, in, ft, deg, rad) and + - * / ^ between"));
  }
}

/// Far beyond anything that can be built, and far from what an int holds.
Dimensionality bounded(Dimensionality dimension) {
  constexpr int highest = 60;
  if (std::abs(dimension.length) > highest || std::abs(dimension.angle) > highest)
    throw dimensionError(say("%1 is a higher power than can be computed with", dimension.name()));
  return dimension;
}

Quantity power(const Quantity& base, const Quantity& exponent) {
  if (exponent.dimension != plainNumber)
    throw dimensionError(say("the exponent of ^ is %1, not a plain number", exponent.dimension.name()));
  const double n = exponent.value;
  if (base.dimension != plainNumber && (n != std::round(n) || std::abs(n) > 6))
    throw dimensionError(say("only whole powers from -6 to 6 of %1 can be taken", base.dimension.name()));
  if (base.value == 0 && n < 0) throw Error(say("division by zero"));
  const int times = base.dimension == plainNumber ? 0 : static_cast<int>(n);
  return {std::pow(base.value, n), bounded({base.dimension.length * times, base.dimension.angle * times})};
}

Quantity valueOf(const Node& node, std::span<const Quantity> values) {
  const auto argument = [&](std::size_t i) -> const Quantity& { return values[node.arguments[i]]; };
  switch (node.operation) {
    case Operation::Number:
      return {node.number, plainNumber};
    case Operation::Unit: {
      if (argument(0).dimension != plainNumber)
        throw dimensionError(say("a unit stands after a value that is already %1", argument(0).dimension.name()));
      return {argument(0).value * node.number, (unitsBegin() + node.symbol)->dimension};
    }
    case Operation::Negate:
      return {-argument(0).value, argument(0).dimension};
    case Operation::Add:
      requireSame(argument(0), argument(1), "add");
      return {argument(0).value + argument(1).value, argument(0).dimension};
    case Operation::Subtract:
      requireSame(argument(0), argument(1), "subtract");
      return {argument(0).value - argument(1).value, argument(0).dimension};
    case Operation::Multiply:
      return {argument(0).value * argument(1).value,
              bounded({argument(0).dimension.length + argument(1).dimension.length,
                       argument(0).dimension.angle + argument(1).dimension.angle})};
    case Operation::Divide:
      if (argument(1).value == 0) throw Error(say("division by zero"));
      return {argument(0).value / argument(1).value,
              bounded({argument(0).dimension.length - argument(1).dimension.length,
                       argument(0).dimension.angle - argument(1).dimension.angle})};
    case Operation::Power:
      return power(argument(0), argument(1));
    case Operation::Call: {
      std::vector<Quantity> arguments;
      for (std::size_t i = 0; i < node.arguments.size(); ++i) arguments.push_back(argument(i));
      return functions[node.symbol].apply(arguments);
    }
    case Operation::Name:
      break;  // evaluated by the caller, who has the lookup
  }
  return {};
}

}  // namespace

struct Expression::Program {
  std::string text;
  std::vector<Node> nodes;
  std::size_t root = 0;
  std::vector<std::string> names;
  std::optional<Error> error;

  void read() {
    Reader local;
    reader = &local;
    try {
      if (text.find_first_not_of(" \t\r\n") == std::string::npos)
        throw Error(say("nothing is written here"), "", say("Type a value"));
      if (text.size() > 10000) throw Error(say("the expression is longer than 10000 characters"));
      requireKnownCharacters(text);
      Grammar grammar;
      grammar.SetExpr(withHeightsAsWords(text));
      root = index(grammar.Eval());
      if (grammar.GetNumResults() != 1)
        throw Error(say("\"%1\" holds more than one value", text), "", say("Write decimals with a point, e.g. 1.5"));
      nodes = std::move(local.nodes);
      names = std::move(local.names);
      checkCalls();
      names.erase(std::remove(names.begin(), names.end(), piName), names.end());
    } catch (const mu::ParserError& failure) {
      error = readError(text, failure);
    } catch (const std::out_of_range&) {
      error = Error(say("\"%1\" holds a number that is too large", text));
    } catch (const Error& failure) {
      error = failure;
    }
    reader = nullptr;
  }

  /// Gives names of functions their argument counts and turns the name "pi" into its number.
  void checkCalls() {
    for (Node& node : nodes) {
      if (node.operation == Operation::Call) {
        const int wanted = functions[node.symbol].argumentCount;
        if (wanted >= 0 ? static_cast<int>(node.arguments.size()) != wanted : node.arguments.empty())
          throw Error(say("%1 takes %2, not %3", functions[node.symbol].name,
                          wanted < 0 ? say("one or more values") : sayCount(wanted, "%1 value", "%1 values"),
                          node.arguments.size()));
      }
      if (node.operation == Operation::Name && names[node.symbol] == piName) {
        node.operation = Operation::Number;
        node.number = std::numbers::pi;
      }
    }
    // Indices into names shift when "pi" leaves the list.
    const auto pi = std::find(names.begin(), names.end(), piName);
    if (pi == names.end()) return;
    const auto gone = static_cast<std::size_t>(pi - names.begin());
    for (Node& node : nodes)
      if (node.operation == Operation::Name && node.symbol > gone) --node.symbol;
  }
};

Expression::Expression(std::string text) {
  auto program = std::make_shared<Program>();
  program->text = std::move(text);
  program->read();
  program_ = std::move(program);
}

const std::string& Expression::text() const {
  return program_->text;
}

const std::vector<std::string>& Expression::names() const {
  return program_->names;
}

bool Expression::isBareNumber() const {
  if (program_->error) return false;
  return std::all_of(program_->nodes.begin(), program_->nodes.end(), [](const Node& node) {
    return node.operation == Operation::Number || node.operation == Operation::Negate;
  });
}

Quantity Expression::evaluate(const Lookup& lookup) const {
  if (const auto& error = program_->error) throw Error(*error);
  std::vector<Quantity> values;
  values.reserve(program_->nodes.size());
  for (const Node& node : program_->nodes) {
    values.push_back(node.operation == Operation::Name ? lookup(program_->names[node.symbol]) : valueOf(node, values));
  }
  const Quantity result = values[program_->root];
  if (!std::isfinite(result.value))
    throw Error(say("\"%1\" has no finite value", text()), "", say("Use smaller numbers"));
  return result;
}

double Expression::evaluateAs(Dimensionality wanted, const Unit& lengthUnit, const Lookup& lookup) const {
  const Quantity value = evaluate(lookup);
  if (value.dimension == wanted) return value.value;
  if (value.dimension == plainNumber && isBareNumber()) {
    if (wanted == lengthDimension) return value.value * lengthUnit.factor;
    if (wanted == angleDimension) return value.value * unitNamed("deg").factor;
  }
  throw Error(say("\"%1\" is %2, but %3 is needed", text(), value.dimension.name(), wanted.name()), "",
              value.dimension == plainNumber ? say("Multiply by a unit, e.g. * 1 mm") : say("Check the units"));
}

Expression Expression::renamed(const std::string& from, const std::string& to) const {
  const std::string& old = text();
  std::string result;
  forEachWord(old, [&](const std::string& word) { result += word == from ? to : word; });
  return result == old ? *this : Expression(result);
}

std::string whyNotAName(const std::string& name) {
  if (name.empty()) return say("a dimension needs a name");
  if (name.size() > 200) return say("a name may have at most 200 characters");
  if (name[0] >= '0' && name[0] <= '9') return say("the name \"%1\" starts with a digit", name);
  if (name.find_first_not_of(nameCharacters()) != std::string::npos || !isUtf8(name))
    return say("the name \"%1\" may hold letters, digits and _ only", name);
  if (findUnit(name)) return say("\"%1\" is a unit", name);
  const bool taken = name == piName || std::any_of(std::begin(functions), std::end(functions),
                                                   [&](const Function& function) { return name == function.name; });
  return taken ? say("\"%1\" is a function or constant", name) : "";
}

}  // namespace kervo
