# frozen_string_literal: true

module Fobrel
  module Core
    module Tip
      # Takes out of an SVG what a drawing does not need: what runs, what loads, what other programs
      # wrote down for themselves. What stays is the static part of W3C SVG 2.
      #
      #   Cleaning.of("<svg …><script>…</script><path …/></svg>")   # => "<svg …><path …/></svg>"
      module Cleaning
        SVG = "http://www.w3.org/2000/svg"
        XLINK = "http://www.w3.org/1999/xlink"
        XML = "http://www.w3.org/XML/1998/namespace"

        # Elements that draw, by SVG 2's element index; filters, but not the one that loads a picture.
        DRAWING = %w[
          svg
          g
          defs
          symbol
          use
          switch
          title
          desc
          style
          path
          rect
          circle
          ellipse
          line
          polyline
          polygon
          text
          tspan
          textPath
          clipPath
          mask
          pattern
          linearGradient
          radialGradient
          stop
          marker
          filter
          feBlend
          feColorMatrix
          feComponentTransfer
          feComposite
          feConvolveMatrix
          feDiffuseLighting
          feDisplacementMap
          feDistantLight
          feDropShadow
          feFlood
          feFuncA
          feFuncB
          feFuncG
          feFuncR
          feGaussianBlur
          feMerge
          feMergeNode
          feMorphology
          feOffset
          fePointLight
          feSpecularLighting
          feSpotLight
          feTile
          feTurbulence
        ].freeze

        # Elements that run or load something, or hold what does.
        ACTIVE = %w[
          script
          foreignObject
          image
          feImage
          a
          animate
          animateMotion
          animateTransform
          set
          discard
          audio
          video
          iframe
          canvas
          handler
          listener
        ].freeze

        # A place in the same file.
        LOCAL = /\A\s*#/
        # What a style or a value must not hold: something of another file.
        REACHES_OUT = /@import[^;]*;?|url\(\s*(?!["']?\s*#)[^)]*\)?|expression\s*\(|(?:java|vb)script:/i

        # Counts elements through references, each once.
        class Expansion
          # @param named [Hash{String => Nokogiri::XML::Element}] by id
          def initialize(named)
            @named = named
            @known = {}
          end

          # @param node [Nokogiri::XML::Element]
          # @return [Float]
          def of(node)
            return @known[node] if @known.key?(node)
            @known[node] = Float::INFINITY # until it is known; met again before that, it leads back to itself
            used = (node.name == "use") ? @named[(node["href"] || node["xlink:href"]).to_s.delete_prefix("#")] : nil
            @known[node] = 1.0 + node.element_children.sum { |child| of(child) } + (used ? of(used) : 0)
          end
        end
        private_constant :Expansion

        class << self
          # @param bytes [String] a plain SVG (no entities)
          # @return [String] UTF-8; cleaned once more it is the same
          # @raise [Nokogiri::XML::SyntaxError]
          def of(bytes)
            document = parsed(bytes)
            document.xpath("//comment() | //processing-instruction()").each(&:remove)
            document.traverse { |node| held_by_link(node) if node.element? && node.name == "a" }
            document.traverse { |node| node.remove if node.element? && node != document.root && !draws?(node) }
            document.traverse { |node| clean(node) if node.element? }
            document.root.to_xml(encoding: "UTF-8", save_with: Nokogiri::XML::Node::SaveOptions::NO_DECLARATION)
          end

          # How many elements it draws once every `use` is followed; one that leads back to itself counts without end.
          #
          # @return [Float]
          # @raise [Nokogiri::XML::SyntaxError]
          def drawn(bytes)
            document = parsed(bytes)
            named = document.xpath("//*[@id]").to_h { |node| [node["id"], node] }
            Expansion.new(named).of(document.root)
          end

          # @return [Array<String>] what in it would run or load something
          # @raise [Nokogiri::XML::SyntaxError]
          def active(bytes)
            found = []
            parsed(bytes).traverse do |node|
              next unless node.element?
              found << "<#{node.name}>" if ACTIVE.include?(node.name)
              found << "a style from outside" if node.name == "style" && node.content.match?(REACHES_OUT)
              node.attribute_nodes.each { |attribute| found << attribute.name if reaches_out?(attribute) }
            end
            found.uniq
          end

          private

          def parsed(bytes) = Nokogiri::XML(bytes) { _1.strict.nonet }

          # What a link holds is drawn all the same.
          def held_by_link(node)
            node.name = "g"
            node.attribute_nodes.each { _1.remove if _1.name == "href" }
          end

          def draws?(node) = DRAWING.include?(node.name) && [SVG, nil].include?(node.namespace&.href)

          def clean(node)
            if node.name == "style" && node.content.match?(REACHES_OUT)
              node.content = node.content.gsub(
                REACHES_OUT,
                ""
              )
            end
            node.attribute_nodes.each { |attribute|
              attribute.remove if reaches_out?(attribute) || ![nil, XLINK, XML].include?(attribute.namespace&.href)
            }
          end

          def reaches_out?(attribute)
            name = attribute.name.downcase
            return true if name.start_with?("on") || name == "base"
            return !attribute.value.match?(LOCAL) if %w[href src].include?(name)
            attribute.value.match?(REACHES_OUT)
          end
        end
      end
    end
  end
end
