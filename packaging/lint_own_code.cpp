// A module for clang-tidy that makes its checks walk our own code only. Without it each of them also walks every
// declaration of Qt, the geometry kernel and the standard library, which is nine tenths of the time.
#include <clang-tidy/ClangTidyCheck.h>
#include <clang-tidy/ClangTidyModule.h>
#include <clang-tidy/ClangTidyModuleRegistry.h>

namespace {

using namespace clang;

/// Finds nothing itself: it is called at the translation unit, before anything inside it is visited, and leaves only
/// what stands in our files for the other checks.
class OwnCode : public tidy::ClangTidyCheck {
 public:
  using ClangTidyCheck::ClangTidyCheck;

  void registerMatchers(ast_matchers::MatchFinder* finder) override {
    finder->addMatcher(ast_matchers::translationUnitDecl().bind("unit"), this);
  }

  void check(const ast_matchers::MatchFinder::MatchResult& found) override {
    std::vector<Decl*> own;
    for (Decl* one : found.Context->getTranslationUnitDecl()->noload_decls())
      if (!one->isFromASTFile() && !found.SourceManager->isInSystemHeader(one->getLocation())) own.push_back(one);
    found.Context->setTraversalScope(own);
  }
};

class OwnCodeModule : public tidy::ClangTidyModule {
 public:
  void addCheckFactories(tidy::ClangTidyCheckFactories& factories) override {
    factories.registerCheck<OwnCode>("kervo-own-code");
  }
};

const tidy::ClangTidyModuleRegistry::Add<OwnCodeModule> registered("kervo", "Walks our own code only");

}  // namespace
