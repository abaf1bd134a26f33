package io.lantrel.check;

import io.lantrel.engine.Engine;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * How a project wants findings to be judged: kinds of another severity, and kinds that it does not
 * want to hear of, with the reason.
 */
public final class CheckRules {

  /** Every kind as it is. */
  public static final CheckRules USUAL = new CheckRules(Map.of(), Set.of(), List.of());

  private final Map<Kind, Rule> rules;
  private final Set<Engine> alsoOn;
  private final List<OwnRule> own;

  /**
   * What a project wants of one kind.
   *
   * @param severity how bad it is; empty if it is not told at all
   * @param reason why; empty if none is given
   */
  public record Rule(Optional<Severity> severity, String reason) {}

  private CheckRules(Map<Kind, Rule> rules, Set<Engine> alsoOn, List<OwnRule> own) {
    EnumMap<Kind, Rule> copy = new EnumMap<>(Kind.class);
    copy.putAll(rules);
    this.rules = Collections.unmodifiableMap(copy);
    this.alsoOn = Set.copyOf(alsoOn);
    this.own = List.copyOf(own);
  }

  /** The same, and findings of a kind are this bad, where they are no errors. */
  public CheckRules with(Kind kind, Severity severity) {
    return and(kind, new Rule(Optional.of(severity), ""));
  }

  /**
   * The same without a kind.
   *
   * @param reason why nobody needs to hear of it
   * @throws IllegalArgumentException if no reason is given, or the kind is an error, which is not a
   *     matter of taste
   */
  public CheckRules without(Kind kind, String reason) {
    if (reason.isBlank()) {
      throw new IllegalArgumentException(kind.id() + " is switched off without a reason");
    }
    if (kind.usualSeverity() == Severity.ERROR) {
      throw new IllegalArgumentException(
          kind.id() + " cannot be switched off: a query with it does not run");
    }
    return and(kind, new Rule(Optional.empty(), reason));
  }

  private CheckRules and(Kind kind, Rule rule) {
    EnumMap<Kind, Rule> more = new EnumMap<>(Kind.class);
    more.putAll(rules);
    more.put(kind, rule);
    return new CheckRules(more, alsoOn, own);
  }

  /**
   * The same, and the queries shall run on these engines as well: what one of them lacks or takes
   * otherwise is told.
   *
   * @throws IllegalArgumentException if one of them is {@link Engine#OTHER}, of which nothing is
   *     known
   */
  public CheckRules alsoOn(Set<Engine> engines) {
    if (engines.contains(Engine.OTHER)) {
      throw new IllegalArgumentException("nothing is known of an engine without a name");
    }
    return new CheckRules(rules, engines, own);
  }

  /** The same, and queries keep a further rule of the project. */
  public CheckRules and(OwnRule rule) {
    List<OwnRule> more = new ArrayList<>(own);
    more.add(rule);
    return new CheckRules(rules, alsoOn, more);
  }

  /** The rules of the project, in the order in which they were added. */
  public List<OwnRule> ownRules() {
    return own;
  }

  /** On which engines the queries shall run besides the one that they are checked on. */
  public Set<Engine> alsoOn() {
    return alsoOn;
  }

  /** What is wanted of a kind; empty if nothing is said. */
  public Optional<Rule> of(Kind kind) {
    return Optional.ofNullable(rules.get(kind));
  }

  /** A finding as it is judged; empty if it is not told. */
  public Optional<Finding> judge(Finding finding) {
    Optional<Rule> rule = of(finding.kind()).filter(each -> finding.severity() != Severity.ERROR);
    return rule.isEmpty()
        ? Optional.of(finding)
        : rule.get().severity().map(severity -> finding.as(severity));
  }
}
