package io.lantrel.report;

import io.lantrel.check.Finding;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.claim.Verdict;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/**
 * Claims as JUnit XML, which programs that run builds read: a test suite for each query, a test for
 * each claim under the claim's own words. {@code docs/schemas/junit.xsd} describes it.
 */
public final class VerifyXml {

  private VerifyXml() {}

  /** One test of a suite. */
  private record Case(String name, @Nullable String failure, @Nullable String error) {}

  /** All queries. */
  public static String write(List<VerifiedQuery> queries) {
    StringWriter text = new StringWriter();
    try {
      XMLStreamWriter xml = XMLOutputFactory.newInstance().createXMLStreamWriter(text);
      xml.writeStartDocument("UTF-8", "1.0");
      newLine(xml);
      xml.writeStartElement("testsuites");
      for (VerifiedQuery query : queries) {
        suite(xml, query);
      }
      newLine(xml);
      xml.writeEndElement();
      newLine(xml);
      xml.close();
    } catch (XMLStreamException impossible) {
      throw new IllegalStateException("what is written into a text can be written", impossible);
    }
    return text.toString();
  }

  private static void newLine(XMLStreamWriter xml) throws XMLStreamException {
    xml.writeCharacters("\n");
  }

  private static void suite(XMLStreamWriter xml, VerifiedQuery query) throws XMLStreamException {
    List<Case> cases = cases(query);
    newLine(xml);
    xml.writeStartElement("testsuite");
    xml.writeAttribute("name", clean(query.name()));
    xml.writeAttribute("tests", String.valueOf(cases.size()));
    xml.writeAttribute(
        "failures", String.valueOf(cases.stream().filter(each -> each.failure() != null).count()));
    xml.writeAttribute(
        "errors", String.valueOf(cases.stream().filter(each -> each.error() != null).count()));
    xml.writeAttribute("skipped", "0");
    for (Case each : cases) {
      write(xml, query, each);
    }
    newLine(xml);
    xml.writeEndElement();
  }

  private static void write(XMLStreamWriter xml, VerifiedQuery query, Case each)
      throws XMLStreamException {
    newLine(xml);
    @Nullable String message = each.failure() == null ? each.error() : each.failure();
    if (message == null) {
      xml.writeEmptyElement("testcase");
    } else {
      xml.writeStartElement("testcase");
    }
    xml.writeAttribute("classname", clean(query.name()));
    xml.writeAttribute("name", clean(each.name()));
    if (message != null) {
      xml.writeStartElement(each.failure() == null ? "error" : "failure");
      xml.writeAttribute("message", clean(message));
      xml.writeEndElement();
      xml.writeEndElement();
    }
  }

  private static List<Case> cases(VerifiedQuery query) {
    List<Case> cases = new ArrayList<>();
    query.obstacle().ifPresent(why -> cases.add(new Case("can be looked at", null, why)));
    for (ClaimProblem problem : query.verification().problems()) {
      cases.add(new Case(problem.claim().text(), problem.message(), null));
    }
    for (CheckedClaim claim : query.verification().claims()) {
      cases.add(
          new Case(
              claim.claim().text(),
              claim.verdict() == Verdict.BROKEN ? claim.reason() : null,
              claim.verdict() == Verdict.UNDECIDED ? claim.reason() : null));
    }
    for (Finding finding : query.failures()) {
      cases.add(new Case(finding.kind().id(), finding.message(), null));
    }
    for (String reason : query.unchecked()) {
      cases.add(new Case("is checked", null, reason));
    }
    return cases;
  }

  /** XML 1.0 has no place for most control characters, and a report none for the others. */
  private static String clean(String text) {
    return Visible.line(text);
  }
}
